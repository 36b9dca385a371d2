"""What people paste: control characters, cells that begin like formulas, words as long as a page. Every paper is whole."""

import csv
import io
import zlib
from xml.etree import ElementTree

import pypdf
import pytest
from pydantic import BaseModel

from candor.demo.demo_notebook import write_demo
from candor.notebook.arrive.photos import PhotoError, keep_picture
from candor.notebook.entries.stay_entries import NoteWritten
from candor.notebook.exchange.csv_table import read_table, write_table
from candor.notebook.release.certificates import read_certificate
from candor.notebook.work.job import fold
from candor.paper.certificate import certificate_pdf
from candor.paper.digital import digital_certificate
from candor.paper.label import label_pdf
from candor.paper.record import CertificateRecord

AS_IT_IS = {
    "format",
    "rule",
    "outcome",
    "kind",
    "phase",
    "state",
    "word",
    "unit",
    "point",
    "function",
    "range",
    "read_as",
    "head",
}
HOSTILE = {"long": "palaver " * 400, "one word": "x" * 3000, "control": "a\x00\x07\x1b\u202e\ufffeb\x0b=1\r=2"}


@pytest.fixture(scope="module")
def signed(tmp_path_factory):
    notebook = write_demo(tmp_path_factory.mktemp("hostile") / "d.candor")
    digest = fold("sb40188", notebook.entries_of("sb40188")).release.certificates[-1].body.digest
    record = CertificateRecord.model_validate_json(read_certificate(notebook.certificate_folder, digest))
    notebook.close()
    few = {
        run: getattr(record, run).model_copy(update={"points": getattr(record, run).points[:5]})
        for run in ("as_found", "as_left")
    }
    return record.model_copy(update=few), digest


def hostile(model: BaseModel, words: str) -> BaseModel:
    """The same with every free text another."""
    other = {}
    for name in set(type(model).model_fields) - AS_IT_IS:
        value = getattr(model, name)
        if isinstance(value, str):
            other[name] = words
        elif isinstance(value, BaseModel):
            other[name] = hostile(value, words)
        elif isinstance(value, tuple) and value:
            other[name] = tuple(
                hostile(x, words) if isinstance(x, BaseModel) else words if isinstance(x, str) else x for x in value
            )
    return model.model_copy(update=other)


@pytest.mark.parametrize("words", HOSTILE.values(), ids=HOSTILE.keys())
def test_every_paper_is_printed_whole_whatever_a_field_holds(signed, words):
    record, digest = signed
    whole = hostile(record, words)
    certificate_pdf(hostile(record, words[:400]), digest)  # all at once
    for name in CertificateRecord.model_fields:
        one = record.model_copy(update={name: getattr(whole, name)})
        if name in ("pack_edition", "conditions", "references"):  # over pages, none left out
            pages = pypdf.PdfReader(io.BytesIO(certificate_pdf(one, digest))).pages
            assert "x" * 99 not in words or "".join(page.extract_text() for page in pages).count("x") >= 3000
        label_pdf(one, digest, "small")
        made = ElementTree.fromstring(digital_certificate(one, digest, "NL"))  # well-formed, or this raises
        assert not any(set(text) & set("\x00\x07\x1b\u202e") for text in made.itertext())


def test_what_is_kept_holds_no_control_characters(notebook):
    written = notebook.write("job", NoteWritten(text="a\x00b\x1b[31m\u202ec\nsecond\tline \\u0007"))
    assert written.body.text == "ab[31mc\nsecond\tline \\u0007"
    assert notebook.entries_of("job")[0] == written


@pytest.mark.parametrize(
    "cell", ["=1+1", "+1+1", "-1+1", "@x", "\r=1+1", "a\r=1+1", "a\n=1+1", '"=1', " =1", "'=1", "\t=1"]
)
def test_a_cell_is_one_cell_and_no_formula(cell):
    """As any reader of the standard's tables, and one that takes a carriage return for a line's end, splits it."""
    text = write_table(("a", "b"), [(cell, "2")])
    rows = list(csv.reader(io.StringIO(text, newline="")))
    assert [len(row) for row in rows] == [2, 2]
    assert not rows[1][0].lstrip().startswith(("=", "+", "@", "-"))
    outside = "".join(
        part for index, part in enumerate(text.split('"')) if index % 2 == 0
    )  # what no quote holds together
    assert "\r" not in outside.replace("\r\n", "")
    assert read_table(text.encode(), ("a", "b")).rows


def png(width: int, height: int) -> bytes:
    """A picture whose header alone says how large it is."""

    def chunk(kind: bytes, content: bytes) -> bytes:
        return len(content).to_bytes(4, "big") + kind + content + zlib.crc32(kind + content).to_bytes(4, "big")

    head = width.to_bytes(4, "big") + height.to_bytes(4, "big") + bytes([8, 2, 0, 0, 0])
    return b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", head) + chunk(b"IDAT", zlib.compress(b"\0")) + chunk(b"IEND", b"")


def test_a_picture_that_would_take_the_memory_is_refused_with_the_limit(tmp_path):
    for side, size in ((12_000, "144"), (60_000, "over 179")):
        with pytest.raises(
            PhotoError, match=rf"board\.png has {size} megapixels; up to 80 can be kept \(170 as a JPEG\)"
        ):
            keep_picture(tmp_path, png(side, side), "board.png")
    assert not list(tmp_path.iterdir())
    assert keep_picture(tmp_path, png(6000, 6000), "board.png")
