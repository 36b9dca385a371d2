"""What is checked before it goes, and what was signed."""
