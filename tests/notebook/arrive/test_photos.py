"""Photos are kept once, or not at all."""

import pytest

from candor.notebook.arrive.photos import PhotoError, keep_photo, keep_picture


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


def test_a_photo_on_a_full_disk_is_said_and_leaves_no_piece(tmp_path, monkeypatch):
    def full(_):
        raise OSError(28, "No space left on device")

    monkeypatch.setattr("os.fsync", full)
    with pytest.raises(PhotoError, match=r"could not be kept in .*No space left on device.*kept without it"):
        keep_picture(tmp_path / "photos", b"\x89PNG\r\n\x1a\n" + b"x" * 100, "cord.png")
    assert list((tmp_path / "photos").iterdir()) == []
