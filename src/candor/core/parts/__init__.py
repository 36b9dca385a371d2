"""Parts: what they are marked, what they measure, what to do with them, what to put in their place."""
