"""Tubes on hand, their tests, testers."""
