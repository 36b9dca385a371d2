"""What a view is made with."""

from __future__ import annotations

import inspect
from collections.abc import Mapping
from typing import Any


def asked(kind: type, given: Mapping[str, object]) -> dict[str, Any]:
    """Return what a view is made with: those of the things given that it names."""
    return {name: given[name] for name in inspect.signature(kind).parameters if name in given}
