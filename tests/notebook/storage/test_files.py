"""Files beside a notebook: whole on the disk or not there."""

import os
import stat

import pytest

from candor.durably import make_private, write_durably


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
