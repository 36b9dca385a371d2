"""A piece as it is typed, and what stands against it in a part's place."""

import pytest

from candor.core.errors import CandorError
from candor.core.parts.component import OnHand
from candor.core.parts.mains import Mains
from candor.core.parts.part import Part
from candor.core.parts.piece_text import read_piece
from candor.core.parts.replacement import own
from candor.words.parts_words import say_proposal

CAN = Part(
    ref="C41 a",
    kind="capacitor",
    nominal=20e-6,
    make="electrolytic",
    role="filter",
    volts=450,
    volts_across=410,
    no_load_volts=470,
)


@pytest.mark.parametrize(
    ("text", "kind", "piece"),
    [
        ("22u 500V electrolytic 105C", "capacitor",
         OnHand(kind="capacitor", key="", value=22e-6, count=1, make="electrolytic", volts=500, celsius=105)),
        ("2 x 47 uF 350 V electrolytic 105 °C", "capacitor",
         OnHand(kind="capacitor", key="", value=47e-6, count=2, make="electrolytic", volts=350, celsius=105)),
        ("104K 0,4 kV", "capacitor", OnHand(kind="capacitor", value=100e-9, count=1, volts=400, tolerance=0.1)),
        ("4n7 class y2", "capacitor", OnHand(kind="capacitor", value=4.7e-9, count=1, safety="Y2")),
        ("330k ±1% 0.5W metal film", "resistor",
         OnHand(kind="resistor", key="", value=330e3, count=1, make="metal film", watts=0.5, tolerance=0.01)),
        ("4K7J 1/2 W", "resistor", OnHand(kind="resistor", value=4.7e3, count=1, watts=0.5, tolerance=0.05)),
        ("470 5W wirewound", "resistor", OnHand(kind="resistor", key="", value=470, count=1, make="wirewound", watts=5)),
    ],
)  # fmt: skip
def test_pieces_as_people_write_them(text, kind, piece):
    found = read_piece(text, kind)
    assert found.value == pytest.approx(piece.value)
    assert {**vars(found), "value": 0} == {**vars(piece), "value": 0}
    assert read_piece(found.text, kind).text == found.text


@pytest.mark.parametrize(
    ("text", "kind"), [("", "resistor"), ("film 400V", "capacitor"), ("0 film", "capacitor"), ("22k", "capacitor"),
                       ("10u", "resistor"), ("500V", "capacitor"), ("-5", "resistor")]
)  # fmt: skip
def test_what_is_no_piece_is_said(text, kind):
    with pytest.raises(CandorError, match=r"xpected|Example"):
        read_piece(text, kind)


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("22u 500V electrolytic 105C", "It serves. +10 % from nominal: ripple 0.91 times"),
        ("22u 450V electrolytic 105C", "450 V is under the 470 V it must stand"),
        ("22u electrolytic 105C", "its voltage rating is not known; it must stand"),
        ("22u 500V electrolytic 85C", "it should stand 105 °C"),
        ("22u 500V film", "electrolytic is wanted"),
        ("47u 500V electrolytic 105C", "47 µF is outside: 18 µF to 30 µF serves"),
        (
            "2 x 47u 350V electrolytic 105C",
            "It serves. +17 % from nominal: ripple 0.85 times as large. An equalising resistor across each.",
        ),
        ("2 x 47u 250V electrolytic 105C", "454.5 V is under the 470 V"),  # a tenth less: they are unlike
    ],
)
def test_what_stands_against_ones_own_choice_is_said(text, says):
    assert says in say_proposal(own(CAN, read_piece(text, "capacitor")))


def test_a_piece_across_the_mains_and_one_too_small_in_power():
    mains = Part(ref="C1", kind="capacitor", nominal=50e-9, make="paper", role="mains", mains="line to chassis")
    assert "class Y2" in say_proposal(own(mains, read_piece("10n 630V film", "capacitor")))
    assert "It serves" in say_proposal(own(mains, read_piece("4.7n Y2 film", "capacitor")))
    assert "Mind" in say_proposal(
        own(mains, read_piece("10n Y2 film", "capacitor"))
    )  # 230 V 50 Hz, until the shop says
    assert "It serves" in say_proposal(own(mains, read_piece("10n Y2 film", "capacitor"), Mains(120, 60)))
    load = Part(
        ref="R10", kind="resistor", nominal=100e3, make="carbon composition", role="load", watts=1, volts_across=150
    )
    assert "0.25 W" in say_proposal(own(load, read_piece("100k 0.25W 350V metal film", "resistor"))).replace(
        "250 mW", "0.25 W"
    )
    assert "It serves" in say_proposal(own(load, read_piece("2 x 51k 1W 350V metal film", "resistor")))
