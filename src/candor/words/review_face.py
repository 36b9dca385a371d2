"""Examples of every sentence about an arc from a photo of its face."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import replace

from candor.core.reading.face_clicks import FaceClicks, Place
from candor.words.face_photo_words import FACE, say_straightened

SIZE = (1600.0, 1200.0)
NUMBERS = "0 3 6 9 12 15"


def _arc(radius: float, count: int) -> tuple[Place, ...]:
    """An arc of 80 degrees as it is seen straight."""
    angles = (math.radians(130 - 80 * i / (count - 1)) for i in range(count))
    return tuple((800 + radius * math.cos(a), 1000 - radius * math.sin(a)) for a in angles)


def faced_examples() -> Iterator[tuple[str, str, str]]:
    """Yield (topic, finding, sentence)."""
    topic = "An arc from a photo of the face"
    clicks = FaceClicks(SIZE, _arc(700, 6), (800.0, 1000.0))
    for numbers, had in (
        ("", clicks), ("0 3 6", clicks), (NUMBERS, replace(clicks, marks=clicks.marks[:4])), ("0 3 6 9 12", clicks),
        (NUMBERS, replace(clicks, corners=((1.0, 1.0),))), (NUMBERS, replace(clicks, even=_arc(500, 3))),
    ):  # fmt: skip
        if (left := had.left(numbers)) is not None:
            yield topic, left.kind.removeprefix("face."), FACE.of(left)
    found = replace(clicks, even=_arc(500, 7)).straightened()
    yield topic, "seen straight", say_straightened(replace(found, tilt_degrees=1.0))
    yield topic, "seen aslant", say_straightened(replace(found, tilt_degrees=17.0))
    yield topic, "by the axis alone, weakly", say_straightened(replace(found, by=("axis",), u=(0.0, 0.013, 0.0)))
    yield topic, "by nothing", say_straightened(replace(found, by=(), u=(0.0, 0.022, 0.0)))
