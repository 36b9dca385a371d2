"""What can go wrong with an instrument on a link."""

from __future__ import annotations

from candor.core.errors import CandorError


class LinkError(CandorError, ConnectionError):
    """An instrument that does not answer, or answers what it should not."""


class StoppedError(LinkError):
    """A question that was given up because the run was stopped."""
