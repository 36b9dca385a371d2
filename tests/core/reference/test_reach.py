"""What is drawn of a standard is its specification, value by value."""

import pytest

from candor.core.reference.reach import reach
from candor.core.reference.reference import CertifiedPoint, Reference, SpecificationRange


def test_each_range_is_drawn_by_its_own_half_width():
    fine = SpecificationRange(20.0, 0.1, counts=5, resolution=1e-3)
    coarse = SpecificationRange(200.0, 0.1, percent_of_range=0.05)
    found = reach(Reference("meter", "V", ranges=(coarse, fine)))
    assert [r.upper for r in found] == [20.0, 200.0]
    for r, line in zip(found, (fine, coarse), strict=True):
        assert r.values[0] == pytest.approx(0.1 * line.upper)
        assert r.values[-1] == pytest.approx(line.upper)
        assert r.shares == pytest.approx([line.half_width(v) / v for v in r.values])
        assert r.shares[0] > r.shares[-1]  # what is added weighs more on what is small
    assert found[0].shares[-1] == pytest.approx(0.001 + 0.005 / 20)


def test_of_bands_the_narrowest_counts_and_a_certificate_is_its_points():
    narrow, wide = (SpecificationRange(10.0, share, low_hertz=40, high_hertz=1e3) for share in (0.2, 1.0))
    assert reach(Reference("meter", "V", ranges=(wide, narrow)))[0].shares[-1] == pytest.approx(0.002)
    points = reach(Reference("part", "ohm", points=(CertifiedPoint(0.0, 0, 1e-3), CertifiedPoint(100.0, 0, 0.05))))
    assert [(p.values, p.shares, p.is_point) for p in points] == [((100.0,), (5e-4,), True)]
