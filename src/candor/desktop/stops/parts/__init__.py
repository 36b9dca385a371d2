"""The Parts stop: the list, what was measured, what goes in its place, runs on the tester."""
