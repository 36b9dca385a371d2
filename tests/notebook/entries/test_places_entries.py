"""Pins in photos of the chassis: moved, found by name, their neighbours, and the names that a sentence holds."""

import pytest

from candor.notebook.entries.places_entries import ChassisPhoto, PinPlaced, names_in
from candor.notebook.entries.strikes_entries import Struck
from candor.notebook.work.job import fold


@pytest.fixture
def places(notebook):
    def now(*bodies):
        for body in bodies:
            notebook.write("j", body)
        return fold("j", notebook.entries_of("j")).places

    now(ChassisPhoto(file="a.jpg", title="under"), ChassisPhoto(file="b.jpg"))
    return now


def pin(name, x, y, file="a.jpg"):
    return PinPlaced(file=file, x=x, y=y, name=name)


def test_a_pin_placed_again_is_moved_and_the_newest_photo_of_it_counts(places):
    found = places(pin("C8", 0.1, 0.2), pin("c8", 0.3, 0.4), pin("C8", 0.9, 0.9, "b.jpg"))
    assert [(p.body.x, p.body.y) for p in found.on("a.jpg")] == [(0.3, 0.4)]
    assert found.of("C8").body.file == "b.jpg"
    assert found.of("C9") is None


def test_what_is_marked_in_a_photo_that_was_struck_is_nowhere(places, notebook):
    places(pin("C8", 0.1, 0.2))
    photo = next(e for e in notebook.entries_of("j") if isinstance(e.body, ChassisPhoto))
    assert places(Struck(target=photo.id)).of("C8") is None


def test_neighbours_are_the_nearest_marks_of_the_same_photo(places):
    found = places(
        pin("n3", 0.5, 0.5),
        pin("n4", 0.55, 0.5),
        pin("n5", 0.5, 0.58),
        pin("n9", 0.9, 0.9),
        pin("n6", 0.5, 0.5, "b.jpg"),
    )
    assert found.beside("N3", 2) == ("n4", "n5")
    assert found.beside("n7", 2) == ()


@pytest.mark.parametrize(
    ("text", "names"),
    [
        ("Replace C8", ("C8",)),
        ("C81 and c8, then R2: n3.", ("C8", "n3")),
        ("the can C41 a is bad", ("C41 a",)),
        ("set ZERO, not C8x or 2.n3", ("ZERO",)),
        ("nothing of it", ()),
    ],
)
def test_names_stand_in_a_sentence_as_words_of_their_own(places, text, names):
    found = places(*(pin(name, 0.1, 0.1) for name in ("C8", "n3", "C41 a", "ZERO", "C41", "x")))
    assert names_in(text, found)[: len(names) or None] == names or (
        names == ("C41 a",) and names_in(text, found)[0] == "C41 a"
    )
