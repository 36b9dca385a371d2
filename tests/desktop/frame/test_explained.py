"""What explains the errors stands in the reasons panel and is drawn through the ribbon; it follows the readings."""


def test_the_likeliest_is_said_and_drawn_and_goes_with_the_job(qtbot, show, demo, monkeypatch):
    window = show(demo)
    window.shelf.job.emit("sb40217")
    window.bench.place.go("calibrate", "plus:as-found:dc+/15/15")
    explained = window.because.explained
    qtbot.waitUntil(lambda: explained.isVisible() and explained.lines[0].text().startswith("R3, +5"))
    assert any("lifted" in line.text() for line in explained.lines)
    assert window.calibrate.ribbon._ghost["dc+/15/15"] > 0.7
    began = []
    monkeypatch.setattr(explained._work, "start", began.append)
    window.bench.place.go("calibrate", "plus:as-found:dc+/50/50")  # another step of the same readings
    assert began == []
    monkeypatch.undo()
    window.shelf.job.emit("sb40230")
    qtbot.waitUntil(lambda: not explained.lines[0].text().startswith("R3"))
    assert "dc+/15/15" not in window.calibrate.ribbon._ghost
    window.go_to_stop("arrive")
    assert not explained.isVisible()


def test_a_reading_struck_is_weighed_anew(qtbot, show, demo):
    window = show(demo)
    window.shelf.job.emit("sb40217")
    window.bench.place.go("calibrate", "plus:as-found:dc+/15/15")
    explained = window.because.explained
    qtbot.waitUntil(lambda: explained.lines[0].text().startswith("R3, +5"))
    before = explained.lines[0].text()
    readings = window.bench.in_hand.found.results["dc+/15/15"].readings
    for reading in readings:
        window.calibrate.strike_reading(reading.entry)
    qtbot.waitUntil(lambda: explained.lines[0].text() not in ("", before))
