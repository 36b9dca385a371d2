"""A network after changes of one or two conductances, many at once, from the inverse of the network as it was.

(A + U D U')^-1 = A^-1 - A^-1 U (1 + D U' A^-1 U)^-1 D U' A^-1 (M. A. Woodbury, Inverting modified matrices, Princeton, 1950), with
two columns in U, each +1 at one node and -1 at another.
"""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from candor.core.suspects.observed import Floats

Places = NDArray[np.intp]


class Changed:
    """Many changed networks.

    Parameters
    ----------
    inverse : array, shape (nodes + 1, nodes + 1)
        ohm; the last row and column are the chassis, of zeros.
    ends : array of int, shape (changes, 2, 2)
        The two nodes of each conductance.
    siemens : array, shape (changes, 2)
        By how much each is more, S; 0 where there is no second.
    """

    def __init__(self, inverse: Floats, ends: Places, siemens: Floats) -> None:
        self._one, self._other = ends[:, :, 0], ends[:, :, 1]
        self._turned = inverse[self._one] - inverse[self._other]  # (changes, 2, nodes + 1)
        inner = np.eye(2) + siemens[:, :, None] * self._across(self._turned).transpose(0, 2, 1)
        self._middle = np.linalg.solve(inner, np.eye(2) * siemens[:, None, :])

    def __len__(self) -> int:
        return len(self._turned)

    def _across(self, rows: Floats) -> Floats:
        """What each conductance sees of rows of its own change, (changes, rows, 2)."""
        made: Floats = np.take_along_axis(rows, self._one[:, None, :], axis=2) - np.take_along_axis(
            rows, self._other[:, None, :], axis=2
        )
        return made

    def rows(self, rows: Floats) -> Floats:
        """Return rows of the changed inverses, shape (changes, rows, nodes + 1), of rows of the inverse as it was."""
        every = np.broadcast_to(rows, (len(self._turned), *rows.shape))
        made: Floats = rows - (self._across(every) @ self._middle) @ self._turned
        return made

    def answer(self, plain: Floats) -> Floats:
        """Return the volts of the changed networks, shape (changes, nodes + 1), of those as it was under the same sources."""
        every = plain[:, None, :]
        made: Floats = (every - (self._across(every) @ self._middle) @ self._turned)[:, 0]
        return made
