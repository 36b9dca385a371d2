"""The pictures of the views."""

from __future__ import annotations

from PySide6.QtGui import QImage

from candor.desktop.shots import draw_shots


def test_shots_draw_the_views_by_their_names(qapp, tmp_path):
    """Some of them, both themes and the sheet of kinds; that each has its picture in docs is looked at with the project."""
    made = draw_shots(tmp_path, only=("drift-light", "calibrate-dark", "kinds-light"))
    assert {path.name for path in made} == {"calibrate-dark.png", "drift-light.png", "kinds-light.png"}
    made = [tmp_path / name for name in ("calibrate-dark.png", "drift-light.png", "kinds-light.png")]
    ground = []
    for path in made:
        image = QImage(str(path))
        assert (image.width(), image.height()) == (1280, 800)
        colours = {image.pixel(x, y) for x in range(0, 1280, 40) for y in range(0, 800, 40)}
        assert len(colours) > 3, path.name
        ground.append(image.pixelColor(600, 790).lightness())
    assert ground[0] < 100 < min(ground[1:])
