"""Chains: standards and measured parts joined by a formula, a reference of its own with its budget link by link."""

from __future__ import annotations

import datetime as dt
import math
from collections.abc import Callable, Iterable
from dataclasses import replace

from candor.core.errors import RangeError, ValueTextError
from candor.core.late_dataclass import dataclass
from candor.core.quantities import engineering
from candor.core.quantities.formula import calculate, check_units, parse_formula
from candor.core.reference.detector import distortion_half_width, reading_over_rms
from candor.core.reference.reference import Age, Current, Reference, Role, age, reference_contributions
from candor.core.uncertainty.budget import Contribution, Shared, rectangular
from candor.core.worded import worded

DEEPEST = 6  # chains within chains: none of a bench has more
_WORST = {"in date": 0, "expired": 1, "never checked": 2}


@dataclass(frozen=True)
class Link:
    """One name of a chain's formula.

    Attributes
    ----------
    name : str
        As the formula has it.
    of : Reference or Chain
    value : float or None
        What it is set to or is, SI; None where it is the one that is read, or a fixed part of its own value.
    """

    name: str
    of: Reference | Chain
    value: float | None = None

    @property
    def own(self) -> float | None:
        """Its value, where it is not the one that is read."""
        return self.value if self.value is not None else getattr(self.of, "own_value", None)


@dataclass(frozen=True)
class Chain:
    """Standards joined by a formula.

    Attributes
    ----------
    name : str
    unit : str
        Of what comes out, SI.
    formula : str
        Such as ``meter * ratio``, ``V / R``, ``e / 2``; see core.quantities.formula.
    links : tuple of Link
        One for every name.
    current : "", "d.c." or "a.c."
    """

    name: str
    unit: str
    formula: str
    links: tuple[Link, ...]
    current: Current = ""

    def __post_init__(self) -> None:
        formula = parse_formula(self.formula)
        units = {link.name: link.of.unit for link in self.links}
        check_units(formula, units, self.unit)
        unused = [name for name in units if name not in formula.names]
        if unused:
            raise ValueTextError(
                worded("reference.is_a_link_that_does_not", name=self.name, first=unused[0], formula=self.formula),
                place=self.name,
            )
        if len([link for link in self.links if link.own is None]) != 1:
            raise ValueTextError(
                worded("reference.one_link_must_be_the_one", name=self.name),
                place=self.name,
                expected=worded("reference.one_link_without_a_value"),
            )

    @property
    def read(self) -> Link:
        """The link that is read, or set, at each reading."""
        return next(link for link in self.links if link.own is None)

    @property
    def read_unit(self) -> str:
        """The unit of what is read, SI."""
        return read_unit_of(self.read.of)

    @property
    def is_read(self) -> bool:
        """Whether its value is read off a meter; else it stands as set."""
        return self.read.of.is_read

    @property
    def role(self) -> Role:
        """What the link that is read is."""
        return self.read.of.role


def read_unit_of(of: Reference | Chain) -> str:
    """Return the unit of what is read off a reference; of a chain that of the link that is read."""
    return of.read_unit if isinstance(of, Chain) else of.unit


def comes_to(of: Reference | Chain, shown: float) -> float:
    """Return what a reference comes to by its formula when it shows `shown`, SI, before any correction.

    Raises
    ------
    RangeError
        Where the formula divides by zero with it.
    """
    if isinstance(of, Reference):
        return shown
    values = {link.name: comes_to(link.of, shown if link.own is None else link.own) for link in of.links}
    return calculate(parse_formula(of.formula), values).value


Served = tuple[Callable[[float], float], list[Contribution]]


def serve(
    of: Reference | Chain,
    shown: float,
    on: dt.date,
    *,
    celsius: float | None = None,
    hertz: float = 0.0,
    waveform: str = "",
    distortion: float = 0.0,
    is_moved: bool = False,
) -> Served:
    """Return how what a reference shows becomes a true value, and what that brings to the budget.

    Corrected by its certificate; of an a.c. meter that does not respond to rms, turned into the true rms of the waveform; of a
    chain through its formula, U_y² = sum of (df/dx_i u_i)² with what two links share of one standard added before it is squared
    (JCGM 100:2008, 5.1.2 and 5.2.2).

    Parameters
    ----------
    of : Reference or Chain
    shown : float
        What it showed, or was set to; of a chain that of the link that is read. SI.
    on : date
        The day, for age and drift.
    celsius : float, optional
        The room, °C.
    hertz : float
        The frequency, Hz; 0 for d.c.
    waveform : str
        Of what is measured; a sine where nothing is said.
    distortion : float
        Harmonics of unknown phase, as a share of the fundamental.
    is_moved : bool
        It was moved until the instrument stood on a mark: where it is stepped, half a step is not known.

    Returns
    -------
    value : function
        From what is shown to the true value, SI.
    contributions : list of Contribution
        In the unit of the true value.

    Raises
    ------
    RangeError
        Where it does not reach the value or the frequency, or cannot follow the waveform.
    """
    if isinstance(of, Chain):
        return _serve_chain(
            of, shown, on, celsius=celsius, hertz=hertz, waveform=waveform, distortion=distortion, is_moved=is_moved
        )
    correction, found = reference_contributions(of, shown, on, celsius, hertz)
    signed = -correction if shown < 0 else correction
    if is_moved and of.step:
        words = worded("reference.set_in_steps_of_half_a", step=engineering(of.step, of.unit))
        found.append(rectangular(worded("reference.half_a_step", name=of.name), of.step / 2, words, "reference"))
    if of.detector is None or not (hertz or waveform):
        return (lambda value: value + signed), found
    factor = reading_over_rms(of.detector, waveform)
    kept = [replace(c, sensitivity=c.sensitivity / factor) for c in found]
    # Of other shapes the harmonics are the shape itself.
    harmonics = distortion if waveform in ("", "sine") else 0.0
    half = distortion_half_width(of.detector, harmonics) * abs(shown) / factor
    if half > 0:
        words = worded(
            "reference.harmonics_up_to_phase_unknown_on", harmonics=100 * harmonics, words=of.detector.words
        )
        made = rectangular(f"{of.name}, waveform", half, words, "reference")
        kept.append(replace(made, shared=Shared("", math.copysign(made.standard_uncertainty, shown))))
    return (lambda value: (value + signed) / factor), kept


def _serve_chain(
    of: Chain, shown: float, on: dt.date, *, celsius: float | None, hertz: float, waveform: str, distortion: float,
    is_moved: bool,
) -> Served:  # fmt: skip
    formula = parse_formula(of.formula)
    values: dict[str, float] = {}
    brought: dict[str, list[Contribution]] = {}
    read: Callable[[float], float] = float
    for link in of.links:
        at = shown if link.own is None else link.own
        turned, found = serve(
            link.of, at, on, celsius=celsius, hertz=hertz, waveform=waveform, distortion=distortion,
            is_moved=is_moved and link.own is None,
        )  # fmt: skip
        values[link.name] = turned(at)
        brought[link.name] = found
        if link.own is None:
            read = turned
    slopes = calculate(formula, values).slopes
    terms = [replace(c, sensitivity=c.sensitivity * slopes[name]) for name, found in brought.items() for c in found]

    def value(of_read: float) -> float:
        return calculate(formula, {**values, _read_name(of): read(of_read)}).value

    return value, together(terms)


def _read_name(of: Chain) -> str:
    return of.read.name


def together(terms: Iterable[Contribution]) -> list[Contribution]:
    """Return contributions in which the terms that readings of one standard have in common are added before they are squared.

    What is common to readings on one range is one draw, so it is added with its signs (JCGM 100:2008, 5.2.2, note 1); across
    ranges how far it is common nobody knows, and the larger of both is taken: one draw, or each its own. What each reading has of
    its own stays its own: a - b of equal readings never has a U of nothing.
    """
    by_name: dict[str, list[Contribution]] = {}
    for term in terms:
        by_name.setdefault(term.name, []).append(term)
    found = []
    for name, same in by_name.items():
        shared = [t for t in same if t.shared is not None]
        alone = [t for t in same if t.shared is None]
        found += _in_common(name, shared) if len(shared) > 1 else shared
        found += [replace(t, name=f"{name} ({i})" if len(same) > 1 else name) for i, t in enumerate(alone, 1)]
    return found


def _in_common(name: str, terms: list[Contribution]) -> list[Contribution]:
    """Return what terms of one name come to: what each reading has of its own, and what they have in common by range."""
    by_span: dict[str, float] = {}
    made = []
    for number, term in enumerate(terms, 1):
        if term.shared is None:
            continue
        by_span[term.shared.span] = by_span.get(term.shared.span, 0.0) + term.sensitivity * term.shared.common
        own = abs(term.sensitivity) * term.shared.own
        if own > 0:
            reason = worded("reference.of_this_reading_alone_counts_and")
            made.append(_instead(term, f"{name}, reading {number}", own, reason))
    one_draw = sum(by_span.values())
    as_one = abs(one_draw) >= math.hypot(*by_span.values()) * (1 - 1e-12)
    common = {"": one_draw} if as_one else {f", {span}": u for span, u in by_span.items()}
    return made + [_instead(terms[0], f"{name}{span}", u, terms[0].reason) for span, u in common.items() if u]


def _instead(term: Contribution, name: str, signed: float, reason: str) -> Contribution:
    return replace(
        term,
        name=name,
        standard_uncertainty=abs(signed),
        sensitivity=math.copysign(1.0, signed),
        reason=reason,
        shared=None,
    )


def age_of(of: Reference | Chain, on: dt.date) -> Age:
    """Say whether a reference was in date on a day; of a chain that of its worst link."""
    if isinstance(of, Reference):
        return age(of, on)
    ages = [age_of(link.of, on) for link in of.links]
    worst = max(ages, key=lambda a: _WORST[a.state])
    return Age(worst.state, " ".join(dict.fromkeys(a.sentence for a in ages)))


def is_typical(of: Reference | Chain) -> bool:
    """Whether a reference, or any link of a chain, is specified by what is usual for its class alone."""
    return of.is_typical if isinstance(of, Reference) else any(is_typical(link.of) for link in of.links)


def highest_shown(of: Reference | Chain) -> float:
    """Return the highest value, SI, that is read off a reference by its specification or certificate."""
    if isinstance(of, Chain):
        return highest_shown(of.read.of)
    return max((*(line.upper for line in of.ranges), *(point.value for point in of.points)), default=0.0)


def say_links(of: Chain, shown: float, on: dt.date, hertz: float = 0.0) -> tuple[str, ...]:
    """Say what a chain comes to when it shows a value, SI, and what every link brings, the largest first, in the unit of what
    comes out.

    Raises
    ------
    RangeError
        As `serve`.
    """
    value, found = serve(of, shown, on, hertz=hertz)
    ranked = sorted(found, key=lambda c: -c.size)
    read = worded(
        "reference.at_comes_to_its_links_bring",
        name=of.read.name,
        shown=engineering(shown, of.read_unit, 3),
        value=engineering(value(shown), of.unit, 5),
    )
    return read, *(f"{c.name}: u = {engineering(c.size, of.unit, 2)}. {c.reason}" for c in ranked)


def build_chain(
    name: str,
    unit: str,
    formula: str,
    links: Iterable[tuple[str, str, float | None]],
    known: Callable[[str, tuple[str, ...]], Reference | Chain],
    current: Current = "",
    above: tuple[str, ...] = (),
) -> Chain:
    """Return a chain from the keys of its links.

    Parameters
    ----------
    name, unit, formula : str
    links : iterable of (name, key, value or None)
    known : function of (key, keys above)
        Returns what a key stands for; given the chains it is asked within, so that it can go on down.
    current : "", "d.c." or "a.c."
    above : tuple of str
        Keys of the chains this one is within.

    Raises
    ------
    RangeError
        Where a chain is a link of itself.
    UnitError, ValueTextError
        Where the formula does not fit its links.
    """
    made = []
    for link, key, value in links:
        if key in above or len(above) > DEEPEST:
            raise RangeError(worded("reference.is_a_link_of_itself_by", name=name, link=link), value=key, place=name)
        made.append(Link(link, known(key, above), value))
    return Chain(name=name, unit=unit, formula=formula, links=tuple(made), current=current)
