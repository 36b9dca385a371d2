"""The schools a job can follow, and what each means. Both of each pair are respectable: common practice, no source."""

from __future__ import annotations

from enum import StrEnum

from candor.core.late_dataclass import dataclass
from candor.core.leakage.capacitor import LeakageRule
from candor.core.parts.mains import Mains


class Sight(StrEnum):
    """What is done with old paper capacitors, and with electrolytics that are never trusted."""

    REPLACE = "replace on sight"
    TEST = "test and keep"


class Electrolytics(StrEnum):
    """What is done with old electrolytics."""

    REFORM = "reform"
    REPLACE = "replace"


class Resistors(StrEnum):
    """What is done with old resistors."""

    ALL = "all on sight"
    TEST = "measure each"


@dataclass(frozen=True)
class Policy:
    """What a job follows.

    Attributes
    ----------
    sight : Sight
    electrolytics : Electrolytics
    resistors : Resistors
    rule : LeakageRule
        The leakage limit for electrolytics.
    safe_volts : float
        Below which a discharged capacitor is called safe, V d.c., at most 60.
    mains : Mains or None
        Of the shop; None where nobody has said.
    """

    sight: Sight = Sight.TEST
    electrolytics: Electrolytics = Electrolytics.REFORM
    resistors: Resistors = Resistors.TEST
    rule: LeakageRule = LeakageRule.TENTH
    safe_volts: float = 60.0
    mains: Mains | None = None
