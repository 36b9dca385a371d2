"""A reading goes where what was applied says: to the point in hand, another of its range, or one made for it."""

import pytest

from candor.core.errors import CandorError
from candor.core.reading.kinds import kind_named
from candor.notebook.work.placing import placed
from candor.packs.procedure import procedure


def at(pack, key, phase="as found"):
    return next(s for s in procedure(pack) if s.kind == "point" and s.phase == phase and s.point.key == key)


@pytest.mark.parametrize("phase", ["as found", "as left"])
@pytest.mark.parametrize(
    ("kind", "indicated", "reference", "goes"),
    [
        ("needle", 72.6, 75.004, "dc+/150/75"),
        ("needle", 60.0, 75.0, "dc+/150/75"),  # far off, and still of what was applied
        ("needle", 30.0, 30.0, "dc+/150/30"),
        ("needle", 75.0, 150.0, "dc+/150/150"),
        ("needle", 150.0, 153.9, "dc+/150/150"),  # over its end: still of its end
        ("mark", 75.0, 92.0, "dc+/150/75"),
        ("mark", 30.0, 31.2, "dc+/150/30"),
    ],
)
def test_it_goes_to_the_point_of_what_was_applied(pack, phase, kind, indicated, reference, goes):
    found = placed(pack, at(pack, "dc+/150/75", phase), kind_named(kind), indicated, reference)
    assert (found.step.point.key, found.step.phase, found.made) == (goes, phase, None)
    assert bool(found.words) == (goes != "dc+/150/75")


@pytest.mark.parametrize("reference", [75.004, -75.004])
def test_of_a_range_of_one_polarity_magnitudes_count_whichever_way_round_the_meter_was(pack, reference):
    found = placed(pack, at(pack, "dc-/150/75"), kind_named("needle"), 72.6, reference)
    assert (found.step.point.key, found.words) == ("dc-/150/75", "")


def test_one_is_made_where_the_range_has_none(pack):
    found = placed(pack, at(pack, "dc+/150/75"), kind_named("needle"), 101.2, 100.1)
    assert found.step.point.key == "dc+/150/100"
    assert (found.made.function, found.made.range, found.made.values) == ("dc+", "150", (100.0,))
    assert (
        "100.1 V was applied: written at 100 V, a point made for it of the 150 V range, not at 75 V." in found.words
    )


@pytest.mark.parametrize("applied", [0.0, 0.2, 400.0])
def test_what_is_of_no_point_of_its_range_is_refused(pack, applied):
    with pytest.raises(CandorError, match="Nothing was written"):
        placed(pack, at(pack, "dc+/150/75"), kind_named("needle"), 75.0, applied)
