"""Descriptions in a notebook's workshop: kept as they are written, made editions, and what becomes of jobs on another one."""

from __future__ import annotations

import pytest

from candor.core.errors import CandorError
from candor.notebook.arrive.pack_choice import packs_at_hand
from candor.notebook.arrive.workshop import Workshop, moving
from candor.packs.bundled import bundled_pack
from candor.packs.draft_text import DraftText
from candor.packs.load import PackError
from candor.packs.procedure import procedure
from candor.words.workshop_words import say_judged, say_moving
from workbench import open_job, point_steps, reading, standard_body


@pytest.fixture
def vm6():
    return bundled_pack("tarnholm-vm6")


def test_a_text_is_kept_with_its_faults_and_comes_back(notebook):
    shop = Workshop(notebook)
    assert shop.begun() == () and shop.text("corvane-av-20") is None
    shop.keep("corvane-av-20", "pack: 2\nid: half [made")
    again = Workshop(notebook)
    assert again.begun() == ("corvane-av-20",)
    assert again.text("corvane-av-20") == "pack: 2\nid: half [made"
    folder = notebook.path.with_name(f"{notebook.path.stem} workshop")
    assert (folder.stat().st_mode & 0o077, (folder / "corvane-av-20.yaml").stat().st_mode & 0o077) == (0, 0)
    shop.drop("corvane-av-20")
    assert shop.begun() == ()
    folder.rmdir()
    folder.write_text("a file stands there")
    with pytest.raises(CandorError, match="could not be kept"):
        shop.keep("corvane-av-20", "x: 1\n")


def test_a_pack_that_comes_with_candor_opens_as_its_file_and_becomes_the_next_edition(notebook, vm6):
    shop = Workshop(notebook)
    text = shop.text_of(vm6)
    assert "# An invented instrument" in text
    same, unchanged = shop.make_edition(text)
    assert (same.digest, unchanged) == (vm6.digest, text)
    narrower = text.replace("percent_of_full_scale: 3", "percent_of_full_scale: 2")
    made, new = shop.make_edition(narrower)
    assert (made.edition, DraftText(new).words(("edition",))) == ("4", "4")
    assert new.replace('edition: "4"', 'edition: "3"') == narrower  # nothing else of the text
    assert (shop.text_of(made), shop.begun()) == (new, ())  # with its comments, and nothing half-made
    assert [head.edition for head in packs_at_hand(notebook) if head.id == vm6.id] == ["4"]
    assert shop.make_edition(new)[0].digest == made.digest  # made again it is the same
    assert shop.make_edition(new.replace("VM-6", "VM-6B"))[0].edition == "5"
    with pytest.raises(PackError):
        shop.make_edition(text.replace("full_scale", "full_scales"))


def test_open_jobs_on_another_edition_are_named_with_what_becomes_of_their_readings(notebook, vm6):
    open_job(notebook, vm6)
    standard = notebook.write("", standard_body())
    for step in point_steps(vm6)[:3]:
        notebook.write("job1", reading(step, standard.id))
    shop = Workshop(notebook)
    text = shop.text_of(vm6)
    assert moving(notebook, vm6) == ()
    other, _ = shop.make_edition(text.replace("Tap the case lightly", "Tap the glass"))
    (found,) = moving(notebook, other)
    assert (found.job, found.read, found.gone, found.changed) == ("job1", 3, (), ())
    assert "judged as before" in say_moving(found)
    fewer = (
        shop.text_of(other)
        .replace("at: [0.2, 0.5, 1.0]", "at: [0.5, 1.0]", 1)
        .replace(
            "title: 1.5 V, full_scale: 1.5, scale: upper, limit: {percent_of_full_scale: 3}",
            "title: 1.5 V, full_scale: 1.5, scale: upper, limit: {percent_of_full_scale: 1}",
        )
    )
    made, _ = shop.make_edition(fewer)
    (found,) = moving(notebook, made)
    points = {s.point.key for s in procedure(made) if s.point}
    assert len(found.gone) == 1 and len(found.changed) == 2 and "dc+/1.5/0.3" not in points
    assert "not in the new edition" in say_moving(found) and "Judged anew" in say_moving(found)


def test_a_caution_that_an_edition_no_longer_says_is_said_before_a_job_goes_over(notebook, vm6):
    open_job(notebook, vm6)
    shop = Workshop(notebook)
    text = DraftText(shop.text_of(vm6).replace("cautions: [chassis]", "cautions: []"))
    bare, _ = shop.make_edition(text.without(("cautions", 0)))
    (found,) = moving(notebook, bare)
    assert found.cautions == (vm6.cautions[0].short,)
    assert say_moving(found).startswith(f"Danger: no longer said there, or said otherwise: {vm6.cautions[0].short}.")


def test_how_far_a_description_is_stands_in_words(vm6):
    from candor.packs.described import judge

    assert say_judged(judge("pack: 2\n")).endswith("faults bar its use. It is kept as it stands; go on.")
    assert say_judged(judge("a: [")) == "1 fault bars its use. It is kept as it stands; go on."
