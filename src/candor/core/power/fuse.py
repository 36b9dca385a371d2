"""A fuse from what flows steadily and what rushes in."""

from __future__ import annotations

from candor.core.errors import RangeError
from candor.core.late_dataclass import dataclass
from candor.core.quantities.show import in_unit
from candor.core.worded import worded

# The usual rated currents of miniature fuse-links, A: IEC 60127-2, from memory.
RATED_AMPERES = (
    0.05, 0.063, 0.08, 0.1, 0.125, 0.16, 0.2, 0.25, 0.315, 0.4, 0.5, 0.63, 0.8, 1.0, 1.25, 1.6, 2.0, 2.5, 3.15, 4.0, 5.0, 6.3, 10.0,
)  # fmt: skip
ROOM = 1.5  # times the steady current, so that it does not age: common practice, no source
SLOW_BEARS = 10.0  # times its rating that a time-lag link bears for at least 10 ms: IEC 60127-2, from memory


@dataclass(frozen=True)
class Fuse:
    """A fuse-link: A, time-lag or quick-acting, and what it was chosen by."""

    amperes: float
    is_slow: bool
    reason: str


def proposed_fuse(steady_amperes: float, inrush_amperes: float = 0.0) -> Fuse:
    """Return the smallest usual fuse-link, A, that bears a steady and an inrush current, A rms (common practice, no source).

    Raises
    ------
    RangeError
        Where no usual one does, or nothing flows.
    """
    if steady_amperes <= 0:
        raise RangeError(worded("power.a_fuse_is_chosen_by_a"), value=in_unit(steady_amperes, "A", 6))
    for amperes in RATED_AMPERES:
        if amperes < ROOM * steady_amperes:
            continue
        if inrush_amperes <= 0:
            return Fuse(amperes, False, worded("power.half_as_much_again_as_flows_steadily"))
        if inrush_amperes <= SLOW_BEARS * amperes:
            return Fuse(amperes, True, worded("power.half_as_much_again_as_flows"))
    raise RangeError(
        worded("power.no_usual_fuse_bears_a_steadily", steady_amperes=steady_amperes, inrush_amperes=inrush_amperes),
        value=in_unit(steady_amperes, "A", 6),
    )  # fmt: skip
