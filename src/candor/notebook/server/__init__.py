"""One notebook on a server: several benches write in it, each with a copy of its own beside it."""
