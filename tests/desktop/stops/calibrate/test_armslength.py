"""From across the bench: every step of a procedure of each kind, by pedal and arrows alone."""

import pytest
from PySide6.QtCore import Qt

from candor.core.reading.kinds import kind_of
from candor.notebook.entries.calibrate_entries import ReadingTaken
from candor.notebook.entries.stay_entries import JobOpened
from candor.packs.bundled import bundled_pack
from candor.packs.procedure import procedure

Key = Qt.Key
WHOLE = (
    "brindle-et2",
    "corvane-lm2",
    "tarnholm-ts22",
    "wexcombe-qt1",
)  # a tube tester, a meter, an oscilloscope, a bridge
OTHER_WAY = ("low", "high", "from", "to", "nudge", "half")  # figures that may be left


def read_by_arrows(qtbot, window) -> None:
    """Move whatever the kind asks for by arrows, N to the next figure, C for what the meter shows."""
    hand, arm = window.hand, window.arms_length
    point, kind = hand.point, kind_of(hand.point)
    for asked in hand.draft.asked(point):
        if asked.name in OTHER_WAY:
            continue
        for _ in range(8):
            if hand.draft.active(point) == asked.name:
                break
            qtbot.keyClick(arm, Key.Key_N)
        keys = [Key.Key_Left] * 2 if asked.name == "on" else [Key.Key_Right, Key.Key_Left, Key.Key_Right]
        for key in keys:
            qtbot.keyClick(arm, key)
    if kind.compares == "reference" and point.needs_reference and not hand.reference_from:
        qtbot.keyClick(arm, Key.Key_C)


@pytest.mark.parametrize("name", WHOLE)
def test_a_whole_procedure_by_pedal_and_arrows(qtbot, show, notebook, clock, name):
    pack = bundled_pack(name)
    digest = notebook.keep_pack(pack)
    notebook.write("j", JobOpened(maker=pack.maker, type=pack.type, serial="7", pack_digest=digest))
    window = show(notebook)
    # As found; trims and as left are walked in tests/desktop/stops/test_calibrate.py.
    every = procedure(pack)
    steps = every[: 1 + max(i for i, s in enumerate(every) if s.phase == "as found")]
    window.bench.place.go("calibrate", steps[0].key)
    window.toggle_arms_length()
    arm = window.arms_length
    for step in steps:
        assert window.bench.place.step_key == step.key, (step.key, window.jot.message.text())
        by_hand = step.kind in ("point", "adjust") and not kind_of(step.point).figured
        for _ in range(6):  # a trim that is repeated until two rounds agree is done twice
            if by_hand:
                read_by_arrows(qtbot, window)
            qtbot.keyClick(arm, Key.Key_Space)
            clock.advance(seconds=step.seconds + 1)
            if window.bench.place.step_key == step.key and step is not steps[-1]:
                qtbot.keyClick(arm, Key.Key_Space)
            if window.bench.place.step_key != step.key or step is steps[-1]:
                break
    read = {e.body.point for e in window.bench.in_hand.job.entries if isinstance(e.body, ReadingTaken)}
    wanted = {
        s.point.key for s in steps if s.point is not None and s.kind == "point" and not kind_of(s.point).figured
    }
    assert wanted <= read
    run = window.bench.in_hand.found
    assert run.measured == len(run.decided), [p.key for p in run.decided if p.key not in run.results]


def test_every_caution_of_a_step_is_said_across_the_bench(show, notebook):
    """The first above and in full, the others too: how long a key may be held is no less a caution."""
    pack = bundled_pack("brindle-et2")
    digest = notebook.keep_pack(pack)
    notebook.write("j", JobOpened(maker=pack.maker, type=pack.type, serial="7", pack_digest=digest))
    window = show(notebook)
    window.bench.place.go("calibrate", "merit:as-found:merit/a/30")
    window.toggle_arms_length()
    first, second = window.hand.cautions()
    said = window.arms_length.do.text()
    assert window.arms_length.do.isVisible() and first.text in said and second.short in said
