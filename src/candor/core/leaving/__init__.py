"""What is measured before an instrument leaves the bench, against limits of a local rule."""
