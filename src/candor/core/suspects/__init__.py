"""What explains the errors of an instrument: its zero, a gain, tracking, a range, a part, a misreading, or nothing."""
