"""A flipped length in a zip's list of files swallows the next file: that is refused, not taken for a job without it."""

import io
import zipfile

import pytest

from candor.notebook.exchange.travel import TravelError, read_travelling
from candor.notebook.exchange.travel_out import travelling

LENGTHS = range(28, 34)  # of name, extra field and comment, in an entry of the list (APPNOTE.TXT 4.3.12)


def test_no_flipped_length_loses_a_file_unseen(demo, tmp_path):
    whole, path = travelling(demo, "sb40188"), tmp_path / "job.zip"
    path.write_bytes(whole)
    sent = read_travelling(path)
    assert sent.packs and sent.files
    at, tried, refused = zipfile.ZipFile(io.BytesIO(whole)).start_dir, 0, 0
    while whole[at : at + 4] == b"PK\x01\x02":
        for place in LENGTHS:
            for bit in range(8):
                flipped = bytearray(whole)
                flipped[at + place] ^= 1 << bit
                path.write_bytes(flipped)
                tried += 1
                try:
                    found = read_travelling(path)
                except TravelError:
                    refused += 1
                else:
                    assert (found.rows, found.packs, found.files) == (sent.rows, sent.packs, sent.files), (
                        at,
                        place,
                        bit,
                    )
        name, extra, comment = (int.from_bytes(whole[at + n : at + n + 2], "little") for n in (28, 30, 32))
        at += 46 + name + extra + comment
    assert tried == 48 * 5
    assert refused > 100


def test_a_zip_that_somebody_packed_again_is_read(demo, tmp_path):
    path, again = tmp_path / "job.zip", tmp_path / "again.zip"
    path.write_bytes(travelling(demo, "sb40188"))
    with zipfile.ZipFile(path) as packed, zipfile.ZipFile(again, "w") as new:
        for info in packed.infolist():
            other = zipfile.ZipInfo(info.filename, (2026, 1, 2, 3, 4, 6))
            other.extra = b"UT\x05\x00\x03\x00\x00\x00\x00"  # the time stamp that most tools add
            new.writestr(other, packed.read(info))
        new.comment = b"packed again"
    assert read_travelling(again).rows == read_travelling(path).rows
    with pytest.raises(TravelError):
        (tmp_path / "none.zip").write_bytes(b"PK")
        read_travelling(tmp_path / "none.zip")
