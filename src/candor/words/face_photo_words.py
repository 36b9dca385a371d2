"""An arc from a photo of the face, in words: how well its marks are placed, and by what it was straightened."""

from __future__ import annotations

from candor.core.quantities.show import trimmed
from candor.core.reading.face_clicks import marks_text
from candor.core.reading.face_photo import Straightened
from candor.words.filling import Sentences

BY = {"axis": "the needle's axis", "even": "the even arc", "corners": "the rectangle"}
WEAK_U = 0.01  # of the arc, standard uncertainty, from which on more to straighten by is asked for
SLIGHT = 3.0  # degrees, under which a face counts as seen straight
FACE = Sentences({
    "face.placed": "{marks} marks over {span} degrees, known to ±{expanded} % of the arc (95 %){aslant}, straightened by {by}.",
    "face.alone": "{marks} marks over {span} degrees, known to ±{expanded} % of the arc (95 %) only: nothing straightened the photo. Click where the needle turns, an even arc, or the corners of a rectangle on the face.",
    "face.aslant": ", seen aslant by about {tilt} degrees",
    "face.numbers": "Write the numbers of the arc from one end to the other, such as 0 1 2 5 10 20 50 inf. Then click each mark in turn.",
    "face.few": "{numbers} numbers do not show how an arc bends; {fewest} or more were expected, both ends among them.",
    "face.mark": "Click the mark {number}: {clicked} of {wanted} are clicked. Wheel: closer; drag: along the photo.",
    "face.many": "{clicked} marks were clicked for {wanted} numbers. Take the last one back, or write its number.",
    "face.corner": "Click corner {next} of {corners} of the rectangle, in order round it.",
    "face.even": "Click the next mark of the even arc: {clicked} of {fewest} or more.",
    "face.weak": "{placed} An even arc on the same face, or the corners of a rectangle on it, would say more.",
})  # fmt: skip


def say_straightened(found: Straightened) -> str:
    """Return how well marks are placed, and by what."""
    figures = {
        "marks": len(found.places),
        "span": f"{found.span_degrees:.0f}",
        "expanded": trimmed(200 * found.worst_u, 2),
    }
    if not found.by:
        return FACE.say("face.alone", figures)
    aslant = FACE.say("face.aslant", {"tilt": f"{found.tilt_degrees:.0f}"}) if found.tilt_degrees >= SLIGHT else ""
    placed = FACE.say("face.placed", {**figures, "aslant": aslant, "by": " and ".join(BY[name] for name in found.by)})
    return FACE.say("face.weak", {"placed": placed}) if found.worst_u > WEAK_U else placed


def face_told(numbers: str, found: Straightened) -> dict[str, object]:
    """Return all that is found, to be written as JSON: angles in degrees, places and U as shares of the arc."""
    return {
        "marks": marks_text(numbers, found),
        "places": list(found.places),
        "u": list(found.u),
        "U": 2 * found.worst_u,
        "span_degrees": found.span_degrees,
        "scatter_px": found.scatter_px,
        "tilt_degrees": found.tilt_degrees,
        "axis_px": list(found.axis_px),
        "by": list(found.by),
        "words": say_straightened(found),
    }
