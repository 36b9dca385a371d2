"""JCGM 100:2008, annex H.2: resistance, reactance and impedance measured together (confirmed with GTC)."""

import math

import GTC
import numpy as np
import pytest

from candor.core.uncertainty.propagation import propagate, type_a

V = (5.007, 4.994, 5.005, 4.990, 4.999)
I = (19.663e-3, 19.639e-3, 19.640e-3, 19.685e-3, 19.678e-3)  # noqa: E741 - the guide's own letter
PHI = (1.0456, 1.0438, 1.0468, 1.0428, 1.0433)


def impedance(x: np.ndarray) -> np.ndarray:
    volts, amperes, phase = x
    z = volts / amperes
    return np.array([z * np.cos(phase), z * np.sin(phase), z])


@pytest.fixture(scope="module")
def result() -> tuple[np.ndarray, np.ndarray]:
    return propagate(impedance, *type_a(np.column_stack([V, I, PHI])))


def test_values_and_uncertainties_as_the_guide_prints_them(result):
    """Table H.4, to the digits printed: R 127.732(71), X 219.847(296 unrounded), Z 254.260(236)."""
    values, covariance = result
    assert values == pytest.approx([127.732, 219.847, 254.260], abs=5e-4)
    assert np.sqrt(np.diag(covariance)) == pytest.approx([0.071, 0.2956, 0.236], abs=5e-4)


def test_correlations_as_the_guide_prints_them(result):
    """r(R,X) -0.588, r(R,Z) -0.485, r(X,Z) 0.993."""
    _, covariance = result
    spread = np.sqrt(np.diag(covariance))
    r = covariance / np.outer(spread, spread)
    assert (r[0, 1], r[0, 2], r[1, 2]) == pytest.approx((-0.588, -0.485, 0.993), abs=5e-4)


def test_same_as_gtc_to_six_digits(result):
    """GTC's own type-A evaluation of several quantities at once."""
    values, covariance = result
    volts, amperes, phase = GTC.type_a.multi_estimate_real((V, I, PHI))
    theirs = (volts / amperes * GTC.cos(phase), volts / amperes * GTC.sin(phase), volts / amperes)
    for index, quantity in enumerate(theirs):
        assert values[index] == pytest.approx(quantity.x, rel=1e-6)
        assert math.sqrt(covariance[index, index]) == pytest.approx(quantity.u, rel=1e-6)
    assert covariance[0, 1] == pytest.approx(GTC.get_covariance(theirs[0], theirs[1]), rel=1e-6)
