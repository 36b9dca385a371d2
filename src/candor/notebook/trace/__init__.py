"""The board traced out, and what was read on it."""
