"""The order in which a tube is tested: what could hurt it or the tester comes before what they could hurt."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Literal

from candor.core.late_dataclass import dataclass
from candor.core.worded import worded

Test = Literal["look", "heater", "shorts", "gas", "emission", "gm", "balance", "noise", "eye open", "eye closed"]
Outcome = Literal["good", "bad"]
FIGURES = ("emission", "gm")  # one place in the order: either will do


@dataclass(frozen=True)
class Asked:
    """One test.

    Attributes
    ----------
    key, title, ask : str
    ends : bool
        Whether a tube that fails it meets no other test.
    """

    key: Test
    title: str
    ask: str
    ends: bool = False

    @property
    def has_figure(self) -> bool:
        """Whether it gives a figure; else it is good or bad."""
        return self.key in FIGURES


LOOK = Asked("look", "Look", worded("tubes.glass_whole_base_firm_getter_silver"), ends=True)
HEATER = Asked("heater", "Heater", worded("tubes.ohms_between_the_heater_pins_cold"), ends=True)
SHORTS = Asked("shorts", "Shorts", worded("tubes.warm_tapped_no_lamp_lights_none"), ends=True)
GAS = Asked("gas", "Gas", worded("tubes.the_needle_hardly_rises_with_the"), ends=True)
EMISSION = Asked("emission", "Emission", worded("tubes.merit_on_the_tester_s_scale"))
GM = Asked("gm", "Transconductance", worded("tubes.on_the_range_and_settings_of"))
BALANCE = Asked("balance", "Balance", worded("tubes.both_sections_alike_within_a_tenth"))
NOISE = Asked("noise", "Noise", worded("tubes.tapped_listened_to_no_crackle_no"))
EYE_OPEN = Asked("eye open", "Eye open", worded("tubes.at_the_setting_for_open_open"))
EYE_CLOSED = Asked("eye closed", "Eye closed", worded("tubes.at_the_setting_for_closed_closed"))
BY_KEY: Mapping[str, Asked] = {
    asked.key: asked
    for asked in (LOOK, HEATER, SHORTS, GAS, EMISSION, GM, BALANCE, NOISE, EYE_OPEN, EYE_CLOSED)
}  # fmt: skip


def tests_of(generic: str, sections: int = 1) -> tuple[Asked, ...]:
    """Return the tests of a tube by its generic kind, in order (common practice, no source).

    Emission or transconductance is one place in the order: either will do. Diodes and rectifiers have no transconductance, an eye
    is judged by two looks, and balance is asked of more than one section.
    """
    first = (LOOK, HEATER, SHORTS)
    if generic.startswith("eye"):
        return (*first, EYE_OPEN, EYE_CLOSED)
    balance = (BALANCE,) if sections > 1 else ()
    if generic.startswith(("diode", "rectifier")):
        return (*first, EMISSION, *balance)
    return (*first, GAS, EMISSION, GM, *balance, NOISE)


@dataclass(frozen=True)
class OutOfOrder:
    """Why a test does not come now.

    Attributes
    ----------
    why : "ended", "before" or "other kind"
        A test that ends all others was failed; one comes before; it is no test of this kind of tube.
    test : Asked
        The one that was failed, the one that comes before, or the test itself.
    """

    why: Literal["ended", "before", "other kind"]
    test: Asked


def out_of_order(test: str, tests: tuple[Asked, ...], done: Mapping[str, Outcome]) -> OutOfOrder | None:
    """Return why a test does not come now, None where it does. What was found all the same is a fact, and is written.

    Parameters
    ----------
    test : str
    tests : tuple of Asked
        Of this tube, in order.
    done : mapping of test to "good" or "bad"
        The newest of each.
    """
    ended = next((t for t in tests if done.get(t.key) == "bad" and t.ends), None)
    if ended is not None and ended.key != test:
        return OutOfOrder("ended", ended)
    for asked in tests:
        if asked.key == test or (asked.has_figure and test in FIGURES):
            return None
        if not _made(asked, done):
            return OutOfOrder("before", asked)
    return OutOfOrder("other kind", BY_KEY[test]) if test in BY_KEY else None


def next_test(tests: tuple[Asked, ...], done: Mapping[str, Outcome]) -> Asked | None:
    """Return the test that comes next, None where all are made or it meets no other."""
    return next((t for t in tests if not _made(t, done) and not out_of_order(t.key, tests, done)), None)


def _made(asked: Asked, done: Mapping[str, Outcome]) -> bool:
    return asked.key in done or (asked.has_figure and any(key in done for key in FIGURES))
