"""What an instrument is: how its ranges are read."""
