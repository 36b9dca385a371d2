"""Candor: a bench notebook that reckons."""

__version__ = "0.1.0"
