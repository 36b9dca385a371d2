"""How an instrument or a standard drifts: its history in segments, where it will be, and when it is due."""
