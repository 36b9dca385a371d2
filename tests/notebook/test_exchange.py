"""CSV readings, photos and the lines of a standard: understood before written, and read back as written."""

import os
import stat

import pytest
from hypothesis import given
from hypothesis import strategies as st

from candor.core.errors import CandorError, ValueTextError
from candor.notebook.certificates import keep_certificate
from candor.notebook.csv_readings import preview_csv
from candor.notebook.entries.shop import CertificateLine, SpecificationLine
from candor.notebook.files import make_private, write_durably
from candor.notebook.photos import PhotoError, keep_photo, keep_picture
from candor.notebook.standards_text import read_lines, write_lines
from workbench import standard_body

GOOD = "point,reading,reference\ndc+/150/75,72.6,75.012\ndc-/150/75,-74.3 V,-75.1\n"


def preview(text: str | bytes, pack):
    return preview_csv(text.encode() if isinstance(text, str) else text, pack, "as found", "std")


def test_a_good_file_is_understood_line_by_line(pack):
    found = preview(GOOD, pack)
    assert found.faults == ()
    assert found.lines[0].understood == "DC volts +, 150 V range at 75 V, as found: needle 72.6 V, reference 75.012 V"
    assert [(r.point, r.indicated, r.reference, r.means) for r in found.readings] == [
        ("dc+/150/75", 72.6, 75.012, "csv"),
        ("dc-/150/75", 74.3, 75.1, "csv"),
    ]
    assert found.readings[0].step == "plus:as-found:dc+/150/75"


@pytest.mark.parametrize(
    "content",
    [
        "Reference;Point;Reading;Direction\n75,012;dc+/150/75;72,6;up\n".encode("latin-1"),
        "\ufeffpoint\treading\treference\tdirection\ndc+/150/75\t72.6\t75.012\tfrom below\n".encode(),
        b"\npoint,reading,reference,direction\n\ndc+/150/75, 72.6 , 75.012 ,up\n\n",
    ],
)
def test_other_hands_at_csv(pack, content):
    """Semicolons and decimal commas, tabs, a byte order mark, blank lines, columns in another order."""
    found = preview(content, pack)
    assert found.faults == ()
    assert (found.readings[0].indicated, found.readings[0].reference, found.readings[0].direction) == (
        72.6,
        75.012,
        "up",
    )


@pytest.mark.parametrize(
    ("line", "words"),
    [
        ("dc+/150/76,72.6,75", "line 3: “dc+/150/76” is not a test point"),
        ("dc+/150/75,6.72X,75", "line 3: “6.72X”: “X” is neither a prefix nor a unit"),
        ("dc+/150/75,,75", "line 3: Nothing was entered"),
        ("dc+/150/75,200,75", "line 3: 200 V is past the stop"),
        ("dc+/150/75,72.6 mA,75", "line 3: “72.6 mA” is a current"),
        ("dc+/150/75,72.6,-75", "line 3: −75 V is negative"),
        ("dc+/150/75,72.6", "line 3: Nothing was entered"),
        ("dc+/150/75,72,6,75,012", "line 3: 5 cells, expected 3: “75” has no column. Is a comma"),
        ("dc+/150/75,7.26,75", "line 3: The reading is 7.26 V at a point of 75 V; has a comma or a prefix slipped?"),
        ("dc+/150/75,72.6,7.5", "line 3: The reference is 7.5 V at a point of 75 V"),
    ],
)
def test_one_bad_line_and_nothing_is_taken_in(pack, line, words):
    found = preview(f"point,reading,reference\ndc+/150/30,30,30\n{line}\ndc+/150/150,150,150\n", pack)
    assert found.readings == ()
    assert [f for f in found.faults if f.startswith(words)], found.faults
    assert len(found.lines) == 3


def test_a_slip_of_a_thousand_is_refused_by_its_line(pack):
    """In a tab file the comma is the decimal point: 1,498 at 1500 V is no reading but a thousand written with a comma."""
    found = preview("point\treading\treference\ndc+/1500/1500\t1,498\t1500.2\n", pack)
    assert found.faults == ("line 2: The reading is 1.498 V at a point of 1.5 kV; has a comma or a prefix slipped?",)
    assert preview("point,reading,reading,reference\n", pack).fault.startswith(
        "line 1: the column “reading” is named twice"
    )


def test_a_missing_column_and_an_empty_file(pack):
    assert (
        preview("point,value\na,1\n", pack)
        .faults[0]
        .startswith(
            "line 1: the column “reading”, “reference” is missing; expected point, reading, reference; found point, value."
        )
    )
    assert preview("", pack).faults
    assert preview("point,reading,reference\n", pack).faults == ("There is no reading in the file.",)


def test_directions_and_phases_of_a_line(pack):
    head = "point,reading,reference,direction,phase\n"
    found = preview(head + "dc+/150/75,72.6,75,down,as left\n", pack)
    assert (found.readings[0].phase, found.readings[0].direction) == ("as left", "down")
    assert "not a direction; expected up or down" in preview(head + "dc+/150/75,72.6,75,left,\n", pack).faults[0]
    assert "not a phase" in preview(head + "dc+/150/75,72.6,75,,later\n", pack).faults[0]


@given(st.binary(max_size=200))
def test_no_file_crashes_the_preview(content):
    from candor.packs.bundled import bundled_packs

    assert preview(content, next(p for p in bundled_packs() if p.procedure)).faults


def test_a_photo_is_kept_once_under_its_content(tmp_path):
    source = tmp_path / "cord.jpg"
    source.write_bytes(b"\xff\xd8\xff" + b"picture")
    names = {keep_photo(tmp_path / "photos", source) for _ in range(2)}
    assert len(names) == 1
    assert (tmp_path / "photos" / names.pop()).read_bytes() == source.read_bytes()
    assert keep_picture(tmp_path / "photos", b"RIFF1234WEBPVP8 ", "x").endswith(".webp")


def test_what_is_no_picture_is_refused(tmp_path):
    bad = tmp_path / "notes.jpg"
    bad.write_text("not a picture")
    with pytest.raises(PhotoError, match=r"notes.jpg is not a picture Candor knows; a JPEG, PNG"):
        keep_photo(tmp_path / "photos", bad)
    with pytest.raises(PhotoError, match="cannot be read"):
        keep_photo(tmp_path / "photos", tmp_path / "gone.png")
    assert not (tmp_path / "photos").exists()


def test_specification_lines_read_back():
    text = "to 10 V: 0.005 % + 0.001 % of range + 2 x 0.1 mV\nto 1 kV: 0.01 %"
    ranges, points = read_lines(text)
    assert points == ()
    assert ranges[0] == SpecificationLine(
        upper=10, percent_of_reading=0.005, percent_of_range=0.001, counts=2, resolution=1e-4
    )
    assert read_lines(write_lines(standard_body(ranges=ranges)))[0] == ranges


def test_certificate_lines_read_back():
    _, points = read_lines("at 10 V: correction 0.2 mV U 0.4 mV k 2\nat 100 V: U 3m")
    assert points == (
        CertificateLine(value=10, correction=2e-4, expanded=4e-4),
        CertificateLine(value=100, expanded=3e-3),
    )
    assert read_lines(write_lines(standard_body(ranges=(), points=points)))[1] == points


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("", "What the standard is good for is missing"),
        ("about 1 %", "Line 1: “about 1 %” cannot be read; expected “to 10 V:"),
        ("to 10 V: 0.1 %\n\nto X: 1 %", "Line 3: “X” does not begin with a number"),
        ("to 10 V: some", "Line 1: “some” is not understood"),
        ("to 10 V: 0.1 %\nat 10 V: U 1m", "give lines of one kind"),
        ("to 0 V: 0.1 %", "Line 1: Input should be greater than 0"),
    ],
)
def test_lines_that_cannot_be_read(text, words):
    with pytest.raises(ValueTextError) as caught:
        read_lines(text)
    assert words in str(caught.value)


def test_what_is_kept_is_on_the_disk_with_its_name(tmp_path, monkeypatch):
    """The file before it gets its name, the folder after: a pulled plug leaves the old or the new, never half of one."""
    done, real = [], os.fsync

    def fsync(handle):
        folder = stat.S_ISDIR(os.fstat(handle).st_mode)
        done.append(("folder" if folder else "file", (tmp_path / "x.bin").exists()))
        real(handle)

    monkeypatch.setattr("os.fsync", fsync)
    write_durably(tmp_path / "x.bin", b"content")
    assert done == [("file", False), ("folder", True)]
    assert (tmp_path / "x.bin").read_bytes() == b"content"


def test_a_photo_on_a_full_disk_is_said_and_leaves_no_piece(tmp_path, monkeypatch):
    def full(_):
        raise OSError(28, "No space left on device")

    monkeypatch.setattr("os.fsync", full)
    with pytest.raises(PhotoError, match=r"could not be kept in .*No space left on device.*kept without it"):
        keep_picture(tmp_path / "photos", b"\x89PNG\r\n\x1a\n" + b"x" * 100, "cord.png")
    assert list((tmp_path / "photos").iterdir()) == []


def test_a_certificate_on_a_full_disk_is_not_signed(tmp_path, monkeypatch):
    def full(_):
        raise OSError(28, "No space left on device")

    monkeypatch.setattr("os.fsync", full)
    with pytest.raises(CandorError, match=r"No space left on device\); it was not signed"):
        keep_certificate(tmp_path / "certificates", b"{}")
    assert list((tmp_path / "certificates").iterdir()) == []


@pytest.mark.parametrize(("parent", "mode"), [(0o755, 0o700), (0o775, 0o777), (0o700, 0o700)])
def test_a_folder_beside_a_notebook_is_its_owners_alone_unless_shared(tmp_path, parent, mode):
    tmp_path.chmod(parent)
    before = os.umask(0)
    try:
        make_private(tmp_path / "photos")
    finally:
        os.umask(before)
    assert (tmp_path / "photos").stat().st_mode & 0o777 == mode
    (tmp_path / "photos").chmod(0o750)
    make_private(tmp_path / "photos")
    assert (tmp_path / "photos").stat().st_mode & 0o777 == 0o750  # one that is there stays as it is
