"""Which Candor this is."""

__version__ = "0.2.0.dev1"
