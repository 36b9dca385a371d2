"""Places beside the route."""
