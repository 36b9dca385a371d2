"""Candor: a bench notebook that reckons."""

import os

# The matrices of a bench are small: threads of the linear algebra spin longer than they help, and stall whatever else runs.
os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")

from candor.core.worded import speak_with
from candor.version import __version__
from candor.words.speaking import sentence_of

speak_with(sentence_of)  # the core knows no words: here, above both, it is given them

__all__ = ["__version__"]
