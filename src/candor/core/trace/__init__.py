"""Trace: what nodes should read and do read, what does not add up, ohms of any pair, and the next best look at a signal."""
