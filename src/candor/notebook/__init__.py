"""The notebook: entries that are never erased, and what they fold into."""
