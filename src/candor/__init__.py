"""Candor: a bench notebook that reckons."""

import os

# The matrices of a bench are small: threads of the linear algebra spin longer than they help, and stall whatever else runs.
os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")


__version__ = "0.1.0"
