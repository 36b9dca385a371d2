"""The window. It asks the core and shows the answer; it computes nothing itself."""
