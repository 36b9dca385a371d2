"""Lines of the trace."""

import math

import pytest

from candor.core.errors import CandorError
from candor.core.jot import JotContext, NoteJot, understand
from candor.core.jot.meaning import AliasJot
from candor.core.jot.trace_meaning import (
    CauseJot,
    LeadJot,
    LookJot,
    NodeDrawnJot,
    NodeReadJot,
    PairJot,
    StageJot,
    TubeJot,
    WorsenedJot,
)


@pytest.mark.parametrize(
    ("text", "meant"),
    [
        ("node n5 182 with 10M", NodeReadJot("n5", 182.0, 10e6)),
        ("node V3 pin 6 -1.2 V", NodeReadJot("v3_pin_6", -1.2)),
        ("node n5 by drawing 180 V at 2000 ohm/V on 300 V", NodeDrawnJot("n5", 180.0, 2000.0, 300.0)),
        ("node n5 by the drawing 180", NodeDrawnJot("n5", 180.0)),
        ("ohms n5 to 0 47k, turned 52k, after 2m", PairJot("n5", "0", 47e3, 52e3, 0.002)),
        ("ohms n5 ground open", PairJot("n5", "0", math.inf)),
        (
            "tube V3 plate n5, cathode 0, plate at most 300 V",
            TubeJot("v3", {"plate": "n5", "cathode": "0"}, {"plate_volts": 300.0}),
        ),
        (
            "tube V3 plate n5, cathode 0, screen n6, kind beam power small",
            TubeJot(
                "v3",
                {"plate": "n5", "cathode": "0", "screen": "n6"},
                {"plate_volts": 250.0, "plate_watts": 10.0, "screen_volts": 250.0, "screen_watts": 1.5},
                "beam power, small",
            ),
        ),
        (  # its own sheet rules
            "tube V3 plate n5, cathode 0, plate at most 300 V, kind triode high mu",
            TubeJot("v3", {"plate": "n5", "cathode": "0"}, {"plate_volts": 300.0}),
        ),
        (
            "tube V3 plate n5, grid n3, cathode n7, mu 20, 10 mA at 250 V and -8.5 V",
            TubeJot("v3", {"plate": "n5", "grid": "n3", "cathode": "n7"}, {"mu": 20.0, "perveance": 0.01 / 4.0**1.5}),
        ),
        ("stage first mixer, weight 2, 5 min, band 8..12", StageJot("first mixer", 2.0, 5.0, 8.0, 12.0)),
        ("behind mixer good", LookJot("mixer", "good")),
        ("lifted behind mixer: 9.3", LookJot("mixer", "", 9.3, True)),
        ("lead proved", LeadJot()),
        ("cause: R7 open", CauseJot("R7 open")),
        ("stopped working: the sweep", WorsenedJot("the sweep")),
        ("node grid is V2 pin 2", AliasJot("grid", "V2 pin 2")),
    ],
)
def test_a_line_and_what_it_means(text, meant):
    found = understand(text, JotContext())
    assert type(found) is type(meant)
    assert {k: v for k, v in vars(found).items() if k != "chips"} == {
        k: v for k, v in vars(meant).items() if k != "chips"
    }
    assert found.chips


@pytest.mark.parametrize("text", ["node n5 by drawing 180 V at 1000 ohm/V", "node 0 5", "node n5 180 with -3",
                                  "ohms n5 to n5 3k", "tube V3 grid n1", "stage x, band 9..3",
                                  "tube V3 plate n5, cathode 0, plate at most 3 A",
                                  "tube V3 plate n5, cathode 0, kind triode"])  # fmt: skip
def test_what_lacks_something_is_asked_for(text):
    with pytest.raises(CandorError, match=r"Example|Kinds|cannot be"):
        understand(text, JotContext())


@pytest.mark.parametrize("text", ["behind the panel there is dust", "node n5", "stage", "the cause is not known"])
def test_words_stay_a_note(text):
    assert isinstance(understand(text, JotContext()), NoteJot)
