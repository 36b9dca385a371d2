"""Small drawn parts."""
