"""Leakage: what a capacitor may leak, how it falls while it reforms, and the run that measures it."""
