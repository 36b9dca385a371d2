"""Finding by words: every word counts, the nearest first, and a slip of the pen is forgiven where nothing fits."""

from candor.core.word_search import MOST, Thing, found

KNOWN = (
    Thing("job", "j1", "Tarnholm VM-6 40217", "at Calibrate, in hand"),
    Thing("job", "j2", "Halvergate signal tracer 1187", "waiting"),
    Thing("part", "C12", "C12 capacitor", "paper coupling"),
    Thing("part", "C1", "C1 capacitor", "electrolytic filter"),
    Thing("standard", "m", "bench meter A", "meter"),
)


def keys(sought):
    return [thing.key for thing in found(KNOWN, sought)]


def test_every_word_counts_in_any_order_and_whole_words_come_first():
    assert keys("capacitor paper") == ["C12"]
    assert keys("c1") == ["C1", "C12"]
    assert keys("1187 tracer") == ["j2"]
    assert keys("") == keys("tracer paper") == []


def test_a_slip_is_forgiven_only_where_nothing_fits():
    assert keys("capasitor electrolitic") == ["C1"]
    assert keys("halvergat") == ["j2"]
    assert keys("zzzzzz") == []


def test_no_more_than_a_screen_or_two_are_given_of_very_many():
    many = tuple(Thing("entry", str(i), f"reading {i} of the 150 V range", f"entry {i}") for i in range(20_000))
    assert len(found(many, "reading range")) == MOST
    assert [thing.key for thing in found(many, "19999 reading")] == ["19999"]
