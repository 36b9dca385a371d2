"""One table of sentences for each topic: what is found, and what is said of it."""
