"""What owners of the demo were promised, what a job waits for, and when the demo's shop is open."""

from __future__ import annotations

import datetime as dt

from candor.demo.gathered_entries import Writing
from candor.demo.live_jobs import POWERED
from candor.demo.parts_jobs import CHECKER
from candor.demo.read_jobs import MULTIMETER, VOLTMETER
from candor.demo.tested_jobs import BRIDGE, TRIGGERED
from candor.notebook.entries.plan_entries import Promised
from candor.notebook.entries.stay_entries import DetailWritten, StatusSet

SHOP = {"hours": "Mon-Fri 9:00-12:30, 13:15-17:30; Sat 10:00-13:00", "hands": "1"}


def write_promises(writing: Writing, job: str, moment: dt.datetime) -> None:
    """Write promises of the jobs of the demo, the first of `job`; one job waits for a part that is announced."""
    today = moment.astimezone().date()
    writing.add_all("", [DetailWritten(field=field, text=text) for field, text in SHOP.items()], moment)
    for name, days in ((job, 2), (POWERED, 1), (CHECKER, 5), (MULTIMETER, 8), (TRIGGERED, 3), (VOLTMETER, 12)):
        writing.add(name, Promised(on=today + dt.timedelta(days=days)), moment)
    waits = StatusSet(status="waiting", text="for its eye tube, ordered", until=today + dt.timedelta(days=6))
    writing.add(BRIDGE, waits, moment)
