"""Signed certificates on a full disk."""

import pytest

from candor.core.errors import CandorError
from candor.notebook.release.certificates import keep_certificate


def test_a_certificate_on_a_full_disk_is_not_signed(tmp_path, monkeypatch):
    def full(_):
        raise OSError(28, "No space left on device")

    monkeypatch.setattr("os.fsync", full)
    with pytest.raises(CandorError, match=r"No space left on device\); it was not signed"):
        keep_certificate(tmp_path / "certificates", b"{}")
    assert list((tmp_path / "certificates").iterdir()) == []
