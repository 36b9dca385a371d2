"""What a new user types and clicks until it is of use, in fields wherever there are any, counted: minutes by `effort`."""

import pytest

from candor.notebook.arrive.pack_from_job import grown_of_job
from candor.packs.load import parse_pack
from effort import Effort
from manual_driver import do, is_seen, steps_of

TASKS = {
    "the first meter": (1, """
1. **Alt+1** *Name* `bench meter`
2. *What it is good for* `DC volts` **Tab** `6 V` **Tab** `0.1 mV` **Tab** `0.5` **Tab** `2` **Enter**
3. *Record it*
   > bench meter is recorded.
"""),
    "a voltmeter of seven ranges, with a.c. and ohms": (4, """
1. **Ctrl+N** `Halvergate vacuum tube voltmeter VX-4 no. 1187` **Enter** **Ctrl+5**
2. *Full scale* `1.5 5 15 50 150 500 1500 V` **Tab** `30` **Tab** `3 %` *usual points* *Write the range*
   > 1.5 V range at 300 mV
3. *A range …* *Function* `AC volts` *Full scale* `1.5 5 15 50 150 500 1500 V` **Tab** `30` **Tab** `5 %` *Write the range*
   > AC volts
4. *A range …* *Function* `Ohms` *How it is read* **Home** **Down** **Down** **Down**
5. *At half the arc* `10 ohm` **Tab** `R×1 R×10 R×100 R×1k R×10k R×100k R×1M` *Limit* `3 % of arc` *Write the range*
   > R×1M
"""),
    "a tube tester to its first reading of a tube's figure": (5, """
1. **Alt+1** *Name* `bench meter, known tubes`
   *What it is good for* `AC volts` **Tab** `200 V` **Tab** `0.1 V` **Tab** `0.5` **Tab** `2` **Enter**
2. **Home** `gm` **Tab** `5000 umho` **Tab** **Tab** `2` **Enter** *Record it*
   > is recorded.
3. **Ctrl+N** `Corvane transconductance tube tester GT-3 no. 9` **Enter** **Ctrl+5**
4. *Full scale* `120 V` **Tab** `60` **Tab** `2 % of reading` *Write the range* **Ctrl+J** `on 120 ref 121` **Enter**
   > error −1.0 V
5. *A range …* *Function* `Transconductance` *How it is read* **Home**
   *Full scale* `3000 umho` **Tab** `60` **Tab** `10 %` *Write the range*
6. **Ctrl+J** `2100 ref 2040` **Enter**
   > Passes: error +60 µmho
"""),
    "a bridge to its first null": (3, """
1. **Alt+1** *Start from a usual class* **Down** **Down** **Down** **Down** **Down** *Record it*
   > capacitance set is recorded.
2. **Ctrl+N** `Wexcombe capacitor checker CX-1 no. 7` **Enter** **Ctrl+5**
3. *The dial ends at* `0.1 uF` **Tab** `100` *Limit* `10 % of reading` *Write the range*
4. **Ctrl+J** `dial 46.5n..48.5n ref 47n` **Enter**
   > Passes: error +0.5 nF, U 1.4 nF
"""),
    "an oscilloscope to its factor and its rise": (3, """
1. **Alt+1** *Name* `source and counter` *What it is good for* `volts` **Tab** `100 V` **Tab** **Tab** `0.1` **Enter**
2. **Home** `time` **Tab** `1 s` **Tab** **Tab** `0.01` **Enter** *Record it*
   > is recorded.
3. **Ctrl+N** `Marrowby triggered oscilloscope OS-4 no. 40` **Enter** **Ctrl+5**
4. *A division is* `0.5 V` **Tab** `8` **Tab** `0.1` *Limit* `5 % of reading` *Write the range* **Ctrl+J** `7.9 div ref 4` **Enter**
   > As found: 1 pass, 1 in all
5. **Ctrl+J** `range rise 0.1 us/div 10 div 10% of reading` **Enter** `3.6 div ref 0.35 us` **Enter**
   > rise, 100 ns/div
"""),
}  # fmt: skip


@pytest.mark.parametrize("task", TASKS)
def test_a_stranger_is_there_within_the_minutes(qtbot, show, notebook, task):
    most, steps = TASKS[task]
    window = show(notebook)
    hand = Effort()
    for step, seen in steps_of(steps):
        do(window, step)
        hand.of(step)
        for words in seen:
            qtbot.waitUntil(lambda words=words: is_seen(window, words), timeout=20_000)
    assert hand.seconds / 60 <= most, f"{hand.seconds / 60:.1f} min, {hand.keys} keys, {hand.clicks} clicks"


def test_a_voltmeter_is_a_pack_with_its_procedure_in_fifteen_minutes(qtbot, show, notebook, tmp_path):
    window, hand = show(notebook), Effort()
    for step, _ in steps_of(TASKS["a voltmeter of seven ranges, with a.c. and ohms"][1]):
        do(window, step)
        hand.of(step)
    do(window, "*Packs*")
    hand.of("*Packs* *Make one of this job …* **Enter**")  # the name that the dialog proposes
    room = window.rooms["packs"]
    assert room.grow.isVisible()
    assert room.write(grown_of_job(notebook, window.bench.in_hand.job.id), tmp_path / "own.yaml")
    made = parse_pack((tmp_path / "own.yaml").read_text(encoding="utf-8"), "own")
    assert [f.title for f in made.functions] == ["DC volts +", "AC volts", "Ohms"]
    assert {len(f.ranges) for f in made.functions} == {7}
    assert {s.phase for s in made.procedure} == {"as found", "as left"}  # what is usual stays its kind's
    assert hand.seconds / 60 <= 15


WHOLE = """
1. **Alt+1** *Name* `bench meter`
   *What it is good for* `DC volts` **Tab** `2 kV` **Tab** `0.1 mV` **Tab** `0.02` **Tab** `2` **Enter** *Record it*
2. **Ctrl+N** `Halvergate vacuum tube voltmeter VX-4 no. 1187` **Enter** **Ctrl+5**
3. *Full scale* `1.5 5 15 50 150 500 1500 V` **Tab** `30` **Tab** `3 %` *usual points* *Write the range*
"""
BEFORE_IT_GOES = """
1. **Ctrl+7** **Ctrl+J** `earth 0.12 ohm lead 0.05 ohm at 10 A` **Enter** `insulation 22 Mohm @500V` **Enter**
2. `touch 0.10 mA as it is on` **Enter** `touch 0.10 mA as it is off` **Enter**
3. `touch 0.09 mA reversed on` **Enter** `touch 0.08 mA reversed off` **Enter**
4. *Release checks* **F7** **Down** **Down** **Down** **Down** **F7** **Down** **F7** **Down** **F7** **Down** **F7**
5. **Down** **Down** **Enter** **F7** **Down** **F7** **Down** **F7** **Down** **F7**
6. *Certificate* *Sign it off* *Papers* *Print: Label*
"""  # fmt: skip


def test_seven_ranges_read_signed_and_labelled_in_twelve_minutes_of_typing(qtbot, show, notebook):
    window, hand = show(notebook), Effort()

    def does(step):
        do(window, step)
        hand.of(step)

    for step, _ in steps_of(WHOLE):
        does(step)
    read = []
    while (step := window.bench.place.step).point is not None:  # each in its turn, by Space alone
        assert step.key not in read
        read.append(step.key)
        point = step.point
        does(
            f"**Ctrl+J** `{point.bare(point.nominal * 1.004, 4)} ref {point.bare(point.nominal, 4)}` **Enter** **Esc** **Space**"
        )
    assert len(read) == 23
    for step, _ in steps_of(BEFORE_IT_GOES):
        does(step)
    qtbot.waitUntil(lambda: is_seen(window, "1 page, 54 × 25 mm."), timeout=20_000)
    assert is_seen(window, "is signed off in the notebook.")
    assert hand.seconds / 60 <= 12, f"{hand.seconds / 60:.1f} min, {hand.keys} keys, {hand.clicks} clicks"
