"""What can go wrong with an instrument on a link."""

from __future__ import annotations

from candor.core.errors import CandorError


class LinkError(CandorError, ConnectionError):
    """An instrument that does not answer, or answers what it should not."""


class StoppedError(LinkError):
    """A question that was given up because the run was stopped."""


class NoReadingError(LinkError):
    """An answer that is not one number of the unit expected: what came is in `value`."""


class OverloadError(NoReadingError):
    """An answer that says the instrument is over its range."""


class NotANumberError(NoReadingError):
    """The answer by which an instrument says that it has no number: 9.91E37."""
