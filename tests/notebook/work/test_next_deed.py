"""What is next follows how the stops stand: what is dangerous first, then the route; it is one of the deeds that are open."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from candor.notebook.work.next_deed import next_deed
from candor.notebook.work.progress import STOPS, Progress
from candor.words.next_deed_words import say_next

DONE = {stop: Progress("done", "", "every step is done") for stop in STOPS}


@pytest.mark.parametrize(
    ("states", "said"),
    [
        ({}, "Next: walk round it at Arrive, because nothing was looked at yet."),
        ({**DONE, "arrive": Progress("begun", "2 open", "cord perished; knob cracked")},
         "Next: settle what is open at Arrive, because of this: cord perished."),
        ({**DONE, "power": Progress("begun", "live", "it is on: full line"), "arrive": Progress()},
         "Next: read the rails, or pull the plug, because it is on: full line."),
        ({**DONE, "calibrate": Progress("barred", "barred", "No power: the sample is bad.")},
         "Next: clear what bars power. No power: the sample is bad."),
        ({**DONE, "calibrate": Progress("begun", "1 of 5", "1 steps to go")},
         "Next: go on at Calibrate, because 1 step is to go."),
        ({**DONE, "calibrate": Progress("untouched", "", "no range is written yet"),
          "power": Progress("untouched", "", "9 to look at before power")},
         "Next: go through the list before power, because 9 of its checks are open."),
        ({**DONE, "release": Progress("untouched")},
         "Next: look over the release checks and sign, because every step is done."),
        (DONE, "Nothing is left to do here."),
    ],
)  # fmt: skip
def test_the_next_deed_is_said_with_its_reason(states, said):
    assert say_next(next_deed(states)) == said


@given(
    st.fixed_dictionaries(
        {stop: st.sampled_from([Progress(), Progress("begun", "1 open", "4 to go"), DONE[stop]]) for stop in STOPS}
    )
)
def test_nothing_is_said_to_be_left_only_where_all_that_counts_is_done(states):
    deed = next_deed(states)
    left = [s for s in ("arrive", "calibrate", "release") if states[s].standing != "done"]
    assert (deed.deed == "nothing") == (not left and not states["trace"].count)
    if deed.deed != "nothing":
        assert states[deed.stop].standing != "done"
