"""Where marks stand along an arc, from a photo of the face: straightened by the needle's axis, an even arc, or a rectangle on it.

The camera shows the plane of the face by a homography (R. Hartley and A. Zisserman, Multiple View Geometry, 2nd ed., 2.3) and bends
it by its lens, here by one radial term. A circle and the picture of its centre fix the plane but for a turn, and so does a circle
with evenly spaced marks, and so do four corners whose sides are known: angles about the axis are what is left. All is one
least-squares fit; what clicks scatter by goes into U. With none of these only how a camera is usually held says anything, and U is
as wide as that.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import TYPE_CHECKING

import numpy as np

from candor.core.errors import RangeError
from candor.core.late_dataclass import dataclass
from candor.core.worded import worded

if TYPE_CHECKING:
    from numpy.typing import NDArray

    Floats = NDArray[np.float64]

FEWEST, FEWEST_EVEN, CORNERS = 5, 5, 4  # marks of the arc, of the even one beside it; of a rectangle
CLICK_SHARE = 6e-4  # of half the picture's diagonal: what a careful click is good for; common practice, no source
WEIGHT = 4.0  # degrees of freedom that this counts as, beside what the clicks scatter by
LENS_U = 0.03  # of the picture's edge, by which an ordinary lens bends it; common practice, no source
# By how much one side of the face's radius is nearer than the other, of the distance: a face seen aslant by 30 degrees from four
# radii away; common practice, no source.
STEP = float(np.finfo(float).eps) ** 0.5  # of a forward difference: rounding and curvature alike
ASLANT_U = 0.12
WIDEST = math.radians(300)  # of an arc
OFF_ARC = 0.01  # of half the diagonal, root mean square: no click is so far off
FINE = 60  # points of the arc as it is drawn


@dataclass(frozen=True)
class Straightened:
    """Where marks stand.

    Attributes
    ----------
    places : tuple of float
        Along the arc, 0 at the first mark to 1 at the last, by angles about the needle's axis.
    u : tuple of float
        Their standard uncertainties: of the clicks, the tilt and the lens.
    span_degrees : float
        From the first mark to the last, about: a plane seen aslant says less of it than of the places.
    scatter_px : float
        By what the clicks stand off the fit, px.
    tilt_degrees : float
        Of the camera against the face, about.
    axis_px : (float, float)
        Where the needle turns, in the picture.
    clockwise : bool
        Whether they were clicked the way a needle goes from its left end to its right.
    by : tuple of str
        What straightened it: "axis", "even", "corners"; empty where nothing did.
    drawn_px : tuple of (float, float)
        The arc as it is understood, from its first mark to its last, to be drawn over the picture.
    """

    places: tuple[float, ...]
    u: tuple[float, ...]
    span_degrees: float
    scatter_px: float
    tilt_degrees: float
    axis_px: tuple[float, float]
    clockwise: bool = True
    by: tuple[str, ...] = ()
    drawn_px: tuple[tuple[float, float], ...] = ()

    @property
    def worst_u(self) -> float:
        """The largest standard uncertainty of a mark between the ends, as a share of the arc."""
        return max(self.u)


def straighten(
    marks: Sequence[tuple[float, float]],
    *,
    size: tuple[float, float],
    axis: tuple[float, float] | None = None,
    even: Sequence[tuple[float, float]] = (),
    corners: Sequence[tuple[float, float]] = (),
    sides: float = 0.0,
) -> Straightened:
    """Return where clicked marks stand along their arc: homography and radial lens by least squares, covariance from its Jacobian.

    Hartley and Zisserman as above; covariance of a fit: JCGM 100:2008, H.3.

    Parameters
    ----------
    marks : sequence of (float, float)
        px, in the order of the arc; five or more.
    size : (float, float)
        Width and height of the picture, px.
    axis : (float, float), optional
        Where the needle turns, px.
    even : sequence of (float, float)
        Marks of an even arc about the same axis, px, in order and evenly spaced; five or more, or none.
    corners : sequence of (float, float)
        The four corners of a rectangle in the plane of the face, px, in order round it; or none.
    sides : float
        Its first side (from the first corner to the second) over its second.

    Raises
    ------
    RangeError
        Where there are too few marks or corners, or they lie on no arc.
    """
    _refuse(marks, even, corners, sides)
    from scipy.optimize import least_squares  # slow to load; needed where a photo is looked at

    half, middle = math.hypot(*size) / 2, np.array(size) / 2
    own, other, round_it, at = (
        (np.asarray(p, dtype=float).reshape(-1, 2) - middle) / half
        for p in (marks, even, corners, () if axis is None else (axis,))
    )
    pivot = at[0] if len(at) else _centre(other if len(other) else own)
    model = _Model(own, other, axis=at, corners=round_it, sides=sides)
    best = None
    for start in model.starts(pivot):
        found = least_squares(model.residuals, start, jac=model.slopes, x_scale="jac", max_nfev=400)
        if best is None or found.cost < best.cost:
            best = found
    if best is None:  # there is always a start
        raise RangeError(worded("reading.the_marks_could_not_be_laid"))
    # The lens term is a prior, no click: it does not count among what scatters.
    off, angles = model.clicks_off(best.x), model.angles(best.x)
    if math.sqrt(float(off @ off) / len(off)) > OFF_ARC:
        worst = int(np.argmax(np.hypot(*off.reshape(-1, 2).T)[: len(own)]))
        raise RangeError(worded("reading.the_marks_do_not_lie_on", worst=worst + 1))
    rises = np.diff(angles)
    if not (np.all(rises > 0) or np.all(rises < 0)) or abs(angles[-1] - angles[0]) > WIDEST:
        raise RangeError(worded("reading.the_marks_do_not_lie_one"))
    freedom = model.freedom
    variance = (float(off @ off) + WEIGHT * CLICK_SHARE**2) / (max(freedom, 0) + WEIGHT)
    unit = np.linalg.inv(best.jac.T @ best.jac + 1e-18 * np.eye(len(best.x))) * variance / CLICK_SHARE**2
    slopes, whole = model.angle_slopes(best.x), float(angles[-1] - angles[0])
    places = (angles - angles[0]) / whole
    moved = (slopes - slopes[0] - places[:, None] * (slopes[-1] - slopes[0])) / whole
    spread = np.sqrt(np.maximum(np.einsum("ij,jk,ik->i", moved, unit, moved), 0.0))
    axis_at = model.to_picture(best.x, np.zeros((1, 2)))[0] * half + middle
    drawn = model.drawn(best.x) * half + middle
    names = {"axis": axis is not None, "even": bool(len(even)), "corners": bool(len(corners))}
    return Straightened(
        places=tuple(map(float, places)),
        u=tuple(map(float, spread)),
        span_degrees=abs(math.degrees(whole)),
        scatter_px=float(np.sqrt(np.mean(off**2)) * half),
        tilt_degrees=model.tilt(best.x),
        axis_px=(float(axis_at[0]), float(axis_at[1])),
        clockwise=bool(
            _unwrapped(own - model.to_picture(best.x, np.zeros((1, 2)))[0]) @ np.linspace(-1, 1, len(own)) > 0
        ),
        by=tuple(name for name, has in names.items() if has),
        drawn_px=tuple((float(x), float(y)) for x, y in drawn),
    )


def _refuse(marks: Sequence[object], even: Sequence[object], corners: Sequence[object], sides: float) -> None:
    if len(marks) < FEWEST:
        raise RangeError(worded("reading.marks_do_not_show_how_an", marks=len(marks), fewest=FEWEST))
    if 0 < len(even) < FEWEST_EVEN:
        raise RangeError(worded("reading.marks_of_the_even_arc_are", even=len(even), fewest_even=FEWEST_EVEN))
    if corners and len(corners) != CORNERS:
        raise RangeError(
            worded("reading.corners_are_no_rectangle_click_all", corners=len(corners), corners_2=CORNERS)
        )
    if corners and not (math.isfinite(sides) and sides > 0):
        raise RangeError(worded("reading.what_are_the_sides_of_the_rectangle"))


def _centre(points: Floats) -> Floats:
    """The centre of the circle through points, by least squares (Kåsa's linear form)."""
    matrix = np.column_stack((2 * points, np.ones(len(points))))
    found = np.linalg.lstsq(matrix, (points**2).sum(axis=1), rcond=None)[0]
    return np.asarray(found[:2])


class _Model:
    """A face in a plane: its axis at 0, the arc of reference of radius 1 with its first mark at angle 0; parameters in a vector.

    The first eight are the homography from the plane to the picture, then the lens; with an even arc its step and the radius of the
    own arc; then the angles of the own marks (without the first where there is no even arc); last where the rectangle lies.
    """

    def __init__(self, own: Floats, even: Floats, axis: Floats, corners: Floats, sides: float) -> None:
        self._own, self._even, self._axis, self._corners = own, even, axis, corners
        self._clicked = np.vstack((own, even, axis, corners))
        self._with_even = len(even) > 0
        self._first = 11 if self._with_even else 9
        self._angles = len(own) - (0 if self._with_even else 1)
        # In the plane the marks go round one way; corners that were clicked the other way round lie mirrored in it.
        wide, high = sides / max(sides, 1.0), 1 / max(sides, 1.0)
        high *= _way_round(own) * _way_round(corners) if len(corners) else 1.0
        self._rectangle = np.array([[0.0, 0.0], [wide, 0.0], [wide, high], [0.0, high]]) if len(corners) else None

    @property
    def freedom(self) -> int:
        """Clicked numbers less parameters, the lens aside: it has a prior of its own."""
        clicked = 2 * (len(self._own) + len(self._even) + len(self._axis) + len(self._corners))
        return clicked - (self._first - 1 + self._angles + len(self._corners))

    def starts(self, pivot: Floats) -> list[Floats]:
        """Where the fit begins: as if the camera looked straight at it, and from four sides."""
        arc = self._even if self._with_even else self._own
        radius = float(np.mean(np.linalg.norm(arc - pivot, axis=1)))
        angles = _unwrapped(arc - pivot)
        turned = angles[0]
        cos, sin = math.cos(turned) * radius, math.sin(turned) * radius
        way = 1.0 if angles[-1] > angles[0] else -1.0
        flat = np.array([cos, -sin * way, pivot[0], sin, cos * way, pivot[1], 0.0, 0.0])
        rest: list[float] = [0.0]
        own = way * (_unwrapped(self._own - pivot) - turned)
        if self._with_even:
            step = way * float(np.mean(np.diff(angles)))
            rest += [step, float(np.mean(np.linalg.norm(self._own - pivot, axis=1))) / radius, *own]
        else:
            rest += list(own[1:])
        made = []
        for tilted in ((0.0, 0.0), (0.25, 0.0), (-0.25, 0.0), (0.0, 0.25), (0.0, -0.25)):
            start = np.array([*flat, *rest])
            start[6:8] = tilted
            if self._rectangle is not None:  # where the corners lie in the plane, as it is thought at the beginning
                plane = self._to_plane(start, self._corners)
                start = np.concatenate((start, _laid_on(self._rectangle, plane)))
            made.append(start)
        return made

    def angles(self, x: Floats) -> Floats:
        """Angles of the own marks, rad."""
        own = x[..., self._first : self._first + self._angles]
        return own if self._with_even else np.concatenate((np.zeros_like(own[..., :1]), own), axis=-1)

    def angle_slopes(self, x: Floats) -> Floats:
        """How the angles move with the parameters: shape (marks, parameters)."""
        slopes = np.zeros((len(self._own), len(x)))
        for i in range(0 if self._with_even else 1, len(self._own)):
            slopes[i, (11 if self._with_even else 8) + i] = 1.0
        return slopes

    def to_picture(self, x: Floats, plane: Floats) -> Floats:
        """Where points of the plane stand in the picture, in half diagonals from its middle; of many vectors of parameters at once
        where x has shape (vectors, parameters): the derivatives of a fit are asked for so."""
        h, across, up = x[..., None], plane[..., 0], plane[..., 1]
        depth = h[..., 6, :] * across + h[..., 7, :] * up + 1.0
        flat = [(h[..., i, :] * across + h[..., i + 1, :] * up + h[..., i + 2, :]) / depth for i in (0, 3)]
        lens = 1 + h[..., 8, :] * (flat[0] ** 2 + flat[1] ** 2)
        return np.stack((flat[0] * lens, flat[1] * lens), axis=-1)

    def _to_plane(self, x: Floats, picture: Floats) -> Floats:
        """The inverse, the lens aside."""
        matrix = np.linalg.inv(np.append(x[:8], 1.0).reshape(3, 3))
        plane = np.column_stack((picture, np.ones(len(picture)))) @ matrix.T
        return np.asarray(plane[:, :2] / plane[:, 2:])

    def drawn(self, x: Floats) -> Floats:
        """The own arc in the picture, finely."""
        angles = self.angles(x)
        radius = x[10] if self._with_even else 1.0
        return self.to_picture(x, radius * _on_circle(np.linspace(angles[0], angles[-1], FINE)))

    def _seen(self, x: Floats) -> Floats:
        angles = self.angles(x)
        own = _on_circle(angles)
        planes = [x[..., 10, None, None] * own if self._with_even else own]
        if self._with_even:
            planes.append(_on_circle(x[..., 9, None] * np.arange(len(self._even))))
        planes.append(np.zeros((*x.shape[:-1], len(self._axis), 2)))
        if self._rectangle is not None:
            a, b, right, up = (x[..., i, None] for i in range(-4, 0))
            wide, high = self._rectangle.T
            planes.append(np.stack((a * wide - b * high + right, b * wide + a * high + up), axis=-1))
        return self.to_picture(x, np.concatenate(planes, axis=-2))

    def clicks_off(self, x: Floats) -> Floats:
        """By what each clicked number stands off, half diagonals."""
        return (self._seen(x) - self._clicked).reshape(*x.shape[:-1], -1)

    def residuals(self, x: Floats) -> Floats:
        """The same in what a click is good for; the lens, and how far from straight it is held, in what is usual."""
        return np.concatenate(
            (self.clicks_off(x) / CLICK_SHARE, x[..., 8:9] / LENS_U, x[..., 6:8] / ASLANT_U), axis=-1
        )

    def slopes(self, x: Floats) -> Floats:
        """How the residuals move with each parameter: shape (residuals, parameters), by forward differences, all at once."""
        steps = STEP * np.maximum(1.0, np.abs(x))
        moved = x + np.diag(steps)
        steps = np.diagonal(moved) - x  # what the sum of two floats really moved it by
        return np.asarray(((self.residuals(moved) - self.residuals(x)) / steps[:, None]).T)

    def tilt(self, x: Floats) -> float:
        """About how far the camera looks aslant, degrees: from how a small circle about the axis is squeezed."""
        step = 1e-4
        around = np.array([[step, 0.0], [0.0, step], [0.0, 0.0]])
        a, b, centre = self.to_picture(x, around)
        stretch = np.linalg.svd(np.column_stack((a - centre, b - centre)), compute_uv=False)
        return math.degrees(math.acos(min(float(stretch[1] / stretch[0]), 1.0)))


def _way_round(points: Floats) -> float:
    """1 where points go round one way, -1 the other: the sign of the area they enclose."""
    after = np.roll(points, -1, axis=0)
    return math.copysign(1.0, float(np.sum(points[:, 0] * after[:, 1] - points[:, 1] * after[:, 0])))


def _laid_on(shape: Floats, points: Floats) -> Floats:
    """The turn, size and place at which a shape lies nearest to points, by least squares: a, b, x, y."""
    rows = [row for px, py in shape for row in ([px, -py, 1.0, 0.0], [py, px, 0.0, 1.0])]
    return np.asarray(np.linalg.lstsq(np.array(rows), points.ravel(), rcond=None)[0])


def _on_circle(angles: Floats) -> Floats:
    return np.stack((np.cos(angles), np.sin(angles)), axis=-1)


def _unwrapped(points: Floats) -> Floats:
    return np.asarray(np.unwrap(np.arctan2(points[:, 1], points[:, 0])))
