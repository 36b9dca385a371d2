"""Soaks, stability, drift over the years."""
