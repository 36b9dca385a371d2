"""Histories solved in steps of their results, against the whole matrix of each, inverted (numpy)."""

import numpy as np
import pytest

from candor.core.drift.walk_solve import Histories, walk_solve

OFFSET = 10.0


def drawn(seed, count=9, lanes=6):
    random = np.random.default_rng(seed)
    begins = random.random((count, lanes)) < 0.3
    begins[0] = True
    years = np.zeros((count, lanes))
    for i in range(1, count):  # two results of one day among them
        years[i] = np.where(begins[i], 0.0, years[i - 1] + random.choice([0.0, 0.4, 1.0, 7.5], lanes))
    columns = random.normal(0, 0.2, (count, lanes, 3)) * (random.random((count, lanes, 3)) < 0.6)
    columns[:, -1, 1:] = 0.0  # one with no standard in common
    columns[..., 0] = 0.3 * years
    asked = Histories(
        years=years, begins=begins, offset=OFFSET, error=random.normal(0, 1, (count, lanes)), columns=columns
    )
    return asked, random.uniform(0, 0.1, lanes) * (np.arange(lanes) > 0), random.uniform(1e-4, 0.2, (count, lanes))


@pytest.mark.parametrize("seed", range(8))
def test_each_is_that_of_the_whole_matrix(seed):
    asked, walk, noise = drawn(seed)
    found = walk_solve(asked, walk, noise)
    for lane in range(len(walk)):
        segment = np.cumsum(asked.begins[:, lane])
        years, error, columns = asked.years[:, lane], asked.error[:, lane], asked.columns[:, lane]
        same = segment[:, None] == segment
        whole = same * (OFFSET**2 + walk[lane] * np.minimum.outer(years, years)) + np.diag(noise[:, lane])
        whole += columns @ columns.T
        inverse = np.linalg.inv(whole)
        assert found.solved[:, lane] == pytest.approx(inverse @ error, rel=1e-6, abs=1e-8)
        assert found.diagonal[:, lane] == pytest.approx(np.diag(inverse), rel=1e-6)
        density = -0.5 * np.linalg.slogdet(whole)[1] - 0.5 * error @ inverse @ error
        assert found.evidence[lane] == pytest.approx(density, rel=1e-8)
        assert found.slope[lane] == pytest.approx(columns[:, 0] @ inverse @ error, rel=1e-6, abs=1e-9)
        left = 1 - columns[:, 0] @ inverse @ columns[:, 0]
        assert found.slope_left[lane] == pytest.approx(left, rel=1e-6, abs=1e-9)
    some = walk_solve(asked.of(np.array([4, 1])), walk[[4, 1]], noise[:, [4, 1]])
    assert some.solved == pytest.approx(found.solved[:, [4, 1]])
