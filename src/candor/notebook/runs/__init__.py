"""Runs on the tester: their files and words."""
