"""Before power, on it and after it."""
