"""The plan as iCalendar (RFC 5545), for the calendar of a telephone or a desk."""

from __future__ import annotations

import datetime as dt

from candor.notebook.plan.day import Day
from candor.version import __version__
from candor.words.plan_words import say_deed, say_length, say_why


def calendar_of(day: Day) -> bytes:
    """Return the plan's deeds as events, and the promises as all-day ones; the same deed has the same UID in the next plan."""
    from icalendar import Calendar, Event

    calendar = Calendar()
    calendar.add("prodid", f"-//Candor//{__version__}//EN")
    calendar.add("version", "2.0")
    for deed in day.deeds:
        event = Event()
        event.add("uid", f"{deed.key.replace(' ', '-')}@candor")
        event.add("dtstamp", day.made.astimezone(dt.UTC))
        event.add("dtstart", deed.begins.astimezone(dt.UTC))
        event.add("dtend", deed.hands_end.astimezone(dt.UTC))
        event.add("summary", f"{deed.name}: {say_deed(deed)}")
        event.add("description", f"{say_length(deed)}. {say_why(deed, day)}")
        calendar.add_component(event)
    for promise in day.promises:
        event = Event()
        event.add("uid", f"{promise.job}-promised@candor")
        event.add("dtstamp", day.made.astimezone(dt.UTC))
        event.add("dtstart", (day.begins + dt.timedelta(minutes=promise.due)).date())
        event.add("summary", f"Promised: {day.names[promise.job]}")
        calendar.add_component(event)
    return bytes(calendar.to_ical())
