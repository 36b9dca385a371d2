"""What kind a part is: by a word, its value's unit, its make; never by the first letter of its designator."""

import pytest

from candor.core.errors import ValueTextError
from candor.core.parts.judge import judge
from candor.core.parts.part import Measured, Part
from candor.core.parts.part_kinds import kind_of, kind_said, read_value
from candor.core.parts.policy import Policy
from candor.core.parts.reasons import Action
from candor.core.parts.replacement import propose


@pytest.mark.parametrize(
    ("ref", "said", "value", "make", "kind"),
    [
        ("VR1", "pot", "4.7 k", "", "potentiometer"), ("VR1", "", "4.7 k", "", "resistor"), ("CR1", "diode", "1N34", "", "diode"),
        ("RV3", "", "0.1 uF", "", "capacitor"), ("C9", "", "100", "", "capacitor"), ("R9", "", "100", "", "resistor"),
        ("L2", "", "8 H", "", "inductor"), ("X1", "", "0.05", "paper", "capacitor"), ("X2", "", "330", "carbon film", "resistor"),
        ("V1", "tube", "6AU6", "", "tube"), ("R3", "", "1M", "film", "resistor"), ("RT1", "switch", "", "", "switch"),
        ("PL1", "pilot lamp", "6.3 V", "", "lamp"), ("C12", "condenser", "0.05", "", "capacitor"),
    ],
)  # fmt: skip
def test_what_says_the_kind(ref, said, value, make, kind):
    assert kind_of(ref, said, value, make) == kind


@pytest.mark.parametrize(
    ("ref", "said", "value"), [("VR1", "", "5"), ("CR7", "", "1N34"), ("Q1", "", "5"), ("R1", "gadget", "5")]
)
def test_what_nothing_says_is_asked(ref, said, value):
    with pytest.raises(ValueTextError, match=ref):
        kind_of(ref, said, value, "")


def test_a_type_stands_before_its_value():
    assert kind_said("6AU6 tube") == ("tube", "6AU6")
    assert read_value("slow 1 A", "fuse")[0] == "slow"
    assert read_value("slow 1 A", "fuse")[1][0].value == 1.0
    assert read_value("6AU6", "tube") == ("6AU6", ())


@pytest.mark.parametrize(
    ("part", "measured", "action"),
    [
        (Part("V1", "tube", 0.0, type="6AU6"), Measured(), Action.CANNOT_TELL),
        (Part("V1", "tube", 0.0, type="6AU6"), Measured(state="good"), Action.KEEP),
        (Part("CR1", "diode", 0.0), Measured(state="short"), Action.REPLACE),
        (Part("VR1", "potentiometer", 5e3), Measured(value=5.2e3), Action.KEEP),
        (Part("VR1", "potentiometer", 5e3), Measured(value=7e3), Action.REPLACE),
        (Part("B1", "battery", 1.5), Measured(state="weak"), Action.WATCH),
    ],
)
def test_others_are_judged_by_what_was_found(part, measured, action):
    assert judge(part, measured, Policy()).action is action
    assert propose(part, ())[-1].piece.type == part.type  # and ordered like the rest: the same again
