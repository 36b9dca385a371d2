"""Files of readings beside the notebook: under their digest, through to the disk, and said where they cannot be written."""

import hashlib

import pytest

from candor.notebook.soak import waveforms
from candor.notebook.soak.waveforms import WaveformFileError, keep_samples


def test_a_log_is_kept_once_under_its_digest(tmp_path):
    content = b"seconds,phase\n0,1e-9\n"
    name = keep_samples(tmp_path / "w", content, "log.csv")
    assert name == hashlib.sha256(content).hexdigest()[:32] + ".csv"
    assert (tmp_path / "w" / name).read_bytes() == content
    assert keep_samples(tmp_path / "w", content, "again.csv") == name


def test_it_is_written_through_to_the_disk_or_said(tmp_path, monkeypatch):
    def full(path, content, is_kept):
        raise OSError(28, "No space left on device")

    monkeypatch.setattr(waveforms, "write_durably", full)  # what outlives a pulled plug is written by this alone
    with pytest.raises(WaveformFileError, match=r"log.csv could not be kept in .*No space left on device"):
        keep_samples(tmp_path / "w", b"x", "log.csv")
