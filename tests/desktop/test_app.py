"""Starting the window."""

from __future__ import annotations

from PySide6.QtWidgets import QAbstractButton

from candor.desktop.app import TITLE_BAR, fitting_size, make_application, trouble


def test_trouble_at_the_start_is_said_in_a_window(qtbot):
    make_application()
    box = trouble("notebook.candor is damaged. It was left untouched.")
    qtbot.addWidget(box)
    box.show()
    assert box.text() == "notebook.candor is damaged. It was left untouched."
    assert box.findChildren(QAbstractButton)[0].isVisible()


def test_a_new_window_fits_what_the_desktop_leaves(qapp):
    free = qapp.primaryScreen().availableGeometry()
    size = fitting_size()
    assert size.width() <= free.width()
    assert size.height() <= free.height() - TITLE_BAR
    assert size.height() <= 800
