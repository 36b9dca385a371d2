"""The owner's card and the correction card: what they state is what was signed, and the owner's limit holds as said."""

import io

import numpy as np
import pypdf
import pytest

from candor.core.quantities import parse_quantity
from candor.demo.demo_notebook import write_demo
from candor.notebook.release.certificates import read_certificate
from candor.notebook.work.job import fold
from candor.paper.cards import (
    NothingToRepeatError,
    correction_card,
    corrections,
    owner_card,
    repeats,
    say_correction,
    say_repeat,
)
from candor.paper.label import NotSignedError
from candor.paper.record import CertificateRecord


@pytest.fixture(scope="module")
def signed(tmp_path_factory):
    notebook = write_demo(tmp_path_factory.mktemp("cards") / "d.candor")
    digest = fold("sb40188", notebook.entries_of("sb40188")).release.certificates[-1].body.digest
    content = read_certificate(notebook.certificate_folder, digest)
    notebook.close()
    return CertificateRecord.model_validate_json(content), digest


def words(pdf):
    return " ".join(" ".join(page.extract_text().split()) for page in pypdf.PdfReader(io.BytesIO(pdf)).pages)


def test_a_correction_is_what_was_signed(signed):
    record, digest = signed
    page = words(correction_card(record, digest))
    assert len(corrections(record)) == len(record.as_left.points)
    assert "496.2 V 501.2 V 1.9 V" in page
    assert "Nothing was measured between them" in page
    assert f"Proof: {record.head}" in page
    c = next(c for c in corrections(record) if round(c.reads, 1) == 496.2)
    assert say_correction(c) == "DC volts + 500 V: reads 496.2 V, add +5.0 ± 1.9 V"


def test_an_owner_repeats_three_points_of_different_ranges_at_volts_that_are_safe(signed):
    record, digest = signed
    found = repeats(record)
    assert len(found) == 3
    assert len({(r.point.function, r.point.range) for r in found}) == 3
    assert {r.point.function for r in found} == {"DC volts +", "DC volts −"}
    assert all(abs(r.applied) <= 30 for r in found)
    page = words(owner_card(record, digest))
    assert "is live to touch" not in page
    for r in found:
        assert say_repeat(r).split(": ")[0] in page
    assert all(abs(r.applied - abs(parse_quantity(r.point.applied, "V").value)) < 1e-9 for r in found)


def test_a_point_left_of_a_centre_zero_keeps_its_sign_and_its_live_volts(signed):
    """The mirror of a magnitude on a − range: there the value applied and the needle are both signed."""
    record, digest = signed
    left = record.as_left.points[0].model_copy(
        update={
            "function": "null",
            "range": "±60 V",
            "applied": "−50 V",
            "unit": "V",
            "kind": "needle",
            "indicated": -48.9,
        }
        | {"error": 1.1, "judged_in": "", "outcome": "pass", "expanded_uncertainty": 0.5}
    )
    right = left.model_copy(update={"applied": "5 V", "indicated": 5.2, "error": 0.2})
    only = record.model_copy(update={"as_left": record.as_left.model_copy(update={"points": (left, right)})})
    found = repeats(only)
    assert [round(r.expected, 9) for r in found] == [-48.9]  # 5 V is too low on the scale
    assert "apply −50 V, it should read −48.9" in say_repeat(found[0])
    page = words(owner_card(only, digest))
    assert page.index("is live to touch") < page.index("apply each value")


def test_a_caution_comes_first_where_only_live_volts_are_left(signed):
    record, digest = signed
    high = record.as_left.model_copy(
        update={"points": tuple(p for p in record.as_left.points if p.range in ("500 V", "1500 V"))}
    )
    page = words(owner_card(record.model_copy(update={"as_left": high}), digest))
    assert page.index("is live to touch") < page.index("apply each value")


def test_there_is_no_card_of_what_was_not_signed_or_cannot_be_repeated(signed):
    record, digest = signed
    for make in (owner_card, correction_card):
        with pytest.raises(NotSignedError, match="sign the certificate first"):
            make(record, "")
    looks = record.as_left.model_copy(
        update={"points": tuple(p.model_copy(update={"kind": "look"}) for p in record.as_left.points)}
    )
    with pytest.raises(NothingToRepeatError):
        owner_card(record.model_copy(update={"as_left": looks}), digest)


@pytest.mark.parametrize("share", [0.1, 0.5, 0.9, 1.0])
@pytest.mark.parametrize("shape", ["normal", "uniform", "triangle", "two"])
def test_a_reading_of_what_did_not_change_lies_within_as_often_as_the_card_says(signed, share, shape):
    """U of any make: `share` of its variance is of the reading, which the owner draws anew; the rest, of our reference, stays.

    Coverage of what the card allows, in U with k = 2, over 200,000 journeys.
    """
    allowed = {r.within / r.point.expanded_uncertainty for r in repeats(signed[0])}
    rng = np.random.default_rng(7)
    draw = {
        "normal": lambda n: rng.normal(0, 1, n),
        "uniform": lambda n: rng.uniform(-(3**0.5), 3**0.5, n),
        "triangle": lambda n: rng.triangular(-(6**0.5), 0, 6**0.5, n),
        "two": lambda n: rng.choice([-1.0, 1.0], n) * 0.8 + rng.normal(0, 0.6, n),
    }[shape]
    n = 200_000
    ours = share**0.5 * draw(n) + (1 - share) ** 0.5 * rng.normal(0, 1, n)  # error of what the card expects
    again = share**0.5 * draw(n)
    assert all(np.mean(np.abs(again - ours) <= within * 2.0) >= 0.95 for within in allowed)
