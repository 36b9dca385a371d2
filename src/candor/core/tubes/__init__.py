"""Tubes: matching over all that are on hand, by the uncertainty of the difference."""
