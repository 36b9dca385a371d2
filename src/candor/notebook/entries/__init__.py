"""Entries: the frozen, typed and versioned lines of a notebook, one module for each topic.

A topic's module holds its bodies, how each is said (`WORDS`, which is also the list of its kinds), and its record: what its
entries amount to. A new kind of entry is a body and a line of `WORDS` in its topic's module; a new topic is a module and a
line of `kinds.TOPICS`.
"""
