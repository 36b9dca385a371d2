"""Faces as a camera sees them: marks in a plane, seen aslant through a lens that bends, clicked with an unsteady hand."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from generators import noise

Floats = NDArray[np.float64]
SIZE = (2400, 1800)
RECTANGLE = np.array([[-1.2, -0.3], [1.2, -0.3], [1.2, 1.3], [-1.2, 1.3]])


@dataclass(frozen=True)
class Face:
    """Clicks, px: marks from the left end, an even arc, four corners (sides 1.5 to 1), the axis; and where the marks stand."""

    marks: list[tuple[float, float]]
    even: list[tuple[float, float]]
    corners: list[tuple[float, float]]
    axis: tuple[float, float]
    places: Floats


def face(
    chance: np.random.Generator, *, tilt: float = 30.0, barrel: float = 0.03, click: float = 0.8, places: Floats | None = None,
    even: int = 7, span: float = 90.0, other: bool = False,
) -> Face:  # fmt: skip
    """Return a face seen aslant by up to `tilt` degrees, bent by up to `barrel` of the picture's edge, clicked to `click` px.

    With `other` its lens bends by two terms about another middle, and clicks are heavy in their tails: no model of ours.
    """
    if places is None:
        gaps = chance.uniform(0.3, 1.7, 11)
        places = np.concatenate(([0.0], np.cumsum(gaps) / gaps.sum()))
    first = math.radians(90 + span / 2)
    flat = np.vstack(
        (
            _around(first, span, places),
            0.8 * _around(first, span, np.linspace(0, 1, even)),
            RECTANGLE,
            np.zeros((1, 2)),
        )
    )
    flat += np.array([chance.uniform(-0.2, 0.2), chance.uniform(-0.9, -0.3)])
    far, turn, lean = chance.uniform(3, 6), chance.uniform(0, 2 * math.pi), math.radians(chance.uniform(0, tilt))
    roll = chance.uniform(-0.3, 0.3)
    seen = (
        np.column_stack((flat, np.zeros(len(flat))))
        @ (_turned((0, 0, 1), roll) @ _turned((math.cos(turn), math.sin(turn), 0), lean)).T
    )
    zoom = 1500 * far / 1.6 * chance.uniform(0.5, 0.75)
    half = math.hypot(*SIZE) / 2
    shown = seen[:, :2] * [1, -1] * (zoom / half) / (far - seen[:, 2])[:, None]
    middle = chance.normal(0, 0.05, 2) if other else np.zeros(2)
    out = ((shown - middle) ** 2).sum(1, keepdims=True)
    bend = chance.uniform(-barrel, barrel)
    shown = middle + (shown - middle) * (1 - bend * (0.5 * out + 0.5 * out**2 if other else out))
    off = noise("heavy" if other else "white", click, shown.size, chance).reshape(shown.shape)
    shown = shown * half + np.array(SIZE) / 2 + off
    clicks = [(float(x), float(y)) for x, y in shown]
    count = len(places)
    return Face(clicks[:count], clicks[count : count + even], clicks[count + even : -1], clicks[-1], places)


def _around(first: float, span: float, at: Floats) -> Floats:
    angles = first - math.radians(span) * at
    return np.column_stack((np.cos(angles), np.sin(angles)))


def _turned(axis: tuple[float, float, float], angle: float) -> Floats:
    x, y, z = axis
    cross = np.array([[0, -z, y], [z, 0, -x], [-y, x, 0]])
    return np.eye(3) + math.sin(angle) * cross + (1 - math.cos(angle)) * cross @ cross
