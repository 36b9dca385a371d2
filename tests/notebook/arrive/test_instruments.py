"""Instruments last: one maker, type and serial number is one instrument, over all its jobs."""

import datetime as dt

import pytest

from candor.core.jot.name_line import read_name
from candor.notebook.arrive.instruments import chosen_first, identity, instruments, known_makers, offers
from candor.notebook.arrive.pack_choice import packs_at_hand
from candor.notebook.entries.ranges_entries import RangeMade
from candor.notebook.entries.stay_entries import DetailWritten, JobOpened
from candor.notebook.work.set_up_of import Like
from candor.packs.kinds_of_instrument import kinds_at_hand
from workbench import NOW


def come(notebook, job, serial="3310", maker="Corvane", type_="AV-20", days=0, **more):
    notebook.write(job, JobOpened(maker=maker, type=type_, serial=serial, **more), NOW + dt.timedelta(days=days))


@pytest.fixture
def offered(notebook):
    def ask(text):
        known = instruments(notebook)
        try:
            named = read_name(text, known_makers(notebook, known))
        except ValueError:
            named = None
        return offers(
            text, named, known=known, heads=packs_at_hand(notebook), kinds=kinds_at_hand(notebook.kinds_folder)
        )

    return ask


def test_the_same_instrument_is_one_over_all_its_jobs(notebook):
    come(notebook, "a", instrument_kind="multimeter")
    come(notebook, "b", maker="CORVANE", type_="AV - 20", serial=" 3310", days=5)
    come(notebook, "c", serial="", days=6)
    come(notebook, "d", serial="", days=7)
    found = instruments(notebook)
    assert [i.jobs for i in found] == [
        ("d",),
        ("c",),
        ("a", "b"),
    ]  # without a number nobody can say that it is the same
    assert identity("Corvane AV-20", "3310") == identity("corvane av-20 ", "33 10")


def test_a_serial_number_put_right_joins_what_belongs_together(notebook):
    come(notebook, "a", serial="3310")
    come(notebook, "b", serial="3301", days=300)
    assert len(instruments(notebook)) == 2
    notebook.write("b", DetailWritten(field="serial", text="3310"))
    (one,) = instruments(notebook)
    assert (one.jobs, one.serial) == (("a", "b"), "3310")


def test_what_was_here_is_offered_first_and_the_same_serial_before_all(notebook, offered):
    come(notebook, "a", serial="3310", instrument_kind="multimeter")
    come(notebook, "b", serial="4711", days=1, instrument_kind="multimeter")
    first = offered("corvane AV-20 3310")[0]
    assert (first.key, first.under) == ("job:a", "here once before, last 2026-06-15, moving-coil multimeter")
    assert first.opened == JobOpened(maker="Corvane", type="AV-20", serial="3310", instrument_kind="multimeter")
    assert {o.key for o in offered("corvane") if o.fits} == {"job:a", "job:b"}
    assert chosen_first(offered("4711")) == "job:b"


@pytest.mark.parametrize(
    ("text", "key", "named"),
    [
        ("Tarnholm VM-6 40217", "pack:", ("Tarnholm", "VM-6", "40217")),
        (
            "Halvergate valve voltmeter 12345",
            "kind:vacuum-tube-voltmeter",
            ("Halvergate", "valve voltmeter", "12345"),
        ),
        ("Corvane AV-20", "kind:something-else", ("Corvane", "AV-20", "")),
        ("40217", "kind:something-else", ("", "40217", "")),
        ("", "kind:something-else", ("", "", "")),
    ],
)
def test_what_enter_takes_fits_what_was_typed(offered, text, key, named):
    found = offered(text)
    chosen = next(o for o in found if o.key == chosen_first(found))
    assert chosen.key.startswith(key)
    assert (chosen.opened.maker, chosen.opened.type, chosen.opened.serial) == named
    assert (chosen.head is not None) == key.startswith("pack")


def test_every_kind_and_every_pack_can_be_chosen(offered):
    found = offered("Corvane AV-20 3310")
    assert sum(o.key.startswith("kind:") for o in found) == 13
    assert sum(o.key.startswith("pack:") for o in found) == 17
    assert len({o.key for o in found}) == len(found)


def test_another_of_its_type_is_offered_to_be_set_up_as_it_was_and_the_same_one_again_too(notebook, offered):
    come(notebook, "a", serial="3310", instrument_kind="multimeter")
    assert not [o for o in offered("corvane AV-20 4711") if o.like]  # nothing was described
    notebook.write("a", RangeMade(function="DC volts", unit="V", full_scale=30.0, divisions=30))
    first = offered("corvane AV-20 4711")[0]
    assert (first.key, first.opened.serial, first.like) == ("like:a", "4711", Like("a", same_unit=False))
    assert "1 range, points" in first.under
    assert chosen_first(offered("corvane AV-20 4711")) == "like:a"
    again = offered("corvane AV-20 3310")[0]
    assert (again.key, again.like) == ("job:a", Like("a", same_unit=True))
    assert again.under.endswith("its 1 range and points as then")
    assert not [o for o in offered("corvane AV-21 4711") if o.like]
    assert not [o for o in offered("halvergate AV-20 4711") if o.like]
