"""The one line at the foot of a stop: what is next, and because of what."""

from __future__ import annotations

from candor.notebook.work.next_deed import NextDeed

LONGEST = 90  # characters of a reason: the stop itself says the rest
_SAYS = {
    "live": "Next: read the rails, or pull the plug, because {why}.",
    "unbar": "Next: clear what bars power. {Why}.",
    "walk": "Next: walk round it at Arrive, because {why}.",
    "settle": "Next: settle what is open at Arrive, because of this: {why}.",
    "prove": "Next: prove the last change at Trace, because no check has proven it.",
    "parts": "Next: decide on the parts, because {why}.",
    "power": "Next: go through the list before power, because {count} of its checks are open.",
    "range": "Next: say its first range at Calibrate, because {why}.",
    "steps": "Next: go on at Calibrate, because {count} steps are to go.",
    "release": "Next: look over the release checks and sign, because every step is done.",
    "nothing": "Nothing is left to do here.",
}


def say_next(deed: NextDeed) -> str:
    """Return it as a sentence: ``Next: go on at Calibrate, because 5 steps are to go.``"""
    why = deed.because.split("; ")[0].strip().rstrip(".")
    if len(why) > LONGEST:
        why = f"{why[:LONGEST].rsplit(' ', 1)[0]} …"
    lower, upper = why[:1].lower() + why[1:], why[:1].upper() + why[1:]
    counted = why.split(" ", 1)[0]
    said = _SAYS[deed.deed].format(why=lower, Why=upper, count=counted)
    if counted == "1":
        said = said.replace("1 of its checks are", "1 of its checks is").replace("1 steps are", "1 step is")
    return said
