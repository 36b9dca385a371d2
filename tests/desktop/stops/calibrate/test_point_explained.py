"""What stands at a step: what its range bears at most, and before a lead moves that what was applied last is too much for it."""


def go(window, job, step):
    window.shelf.job.emit(job)
    window.bench.place.go("calibrate", step)


def test_the_step_says_what_its_range_bears(show, demo):
    window = show(demo)
    go(window, "sb40243", "ohms:as-found:ohms/1/5")
    assert "No volts on the terminals" in window.calibrate.do.text()
    go(window, "sb40243", "dc-volts:as-found:dcv/100/40")
    assert "At most" not in window.calibrate.do.text()  # nothing a wrong lead ends at once: it stands beside
    assert "At most 466.7 V for 2 s" in window.because.rest.text().replace("\u00a0", " ")


def test_after_a_reading_at_more_volts_the_caution_comes_before_the_lead_moves(show, demo):
    """The job's last reading was at 75 V."""
    window = show(demo)
    go(window, "sb40217", "plus:as-found:dc+/15/15")
    assert "75 V was applied last" in window.calibrate.caution.text().replace("\u00a0", " ")
    go(window, "sb40217", "plus:as-found:dc+/150/150")
    assert "applied last" not in window.calibrate.caution.text()
    go(window, "sb40217", "plus:as-found:dc+/15/15")
    window.toggle_arms_length()
    assert "Source to zero" in window.arms_length.caution.text()
