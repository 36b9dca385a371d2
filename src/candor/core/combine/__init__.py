"""One value made of several: preferred values, the exact search, the worst case, trims."""
