"""The part on the simulated clips."""

from candor.core.parts.part import Part
from candor.links.simulated_part import old_capacitor


def test_the_simulated_part_is_always_the_same_for_a_designator():
    part = Part(ref="C17", kind="capacitor", nominal=40e-6, make="electrolytic", role="filter", volts=350)
    assert old_capacitor(part) == old_capacitor(part)
    assert old_capacitor(part).unformed_amperes > old_capacitor(part).final_amperes
    paper = [old_capacitor(Part(f"C{i}", "capacitor", 1e-8, "paper", volts=400)) for i in range(60)]
    weak = sum(c.breaks_down_at < 400 for c in paper)
    assert 0 < weak < 30
    film = old_capacitor(Part("C1", "capacitor", 1e-8, "film"))
    assert film.final_amperes < min(c.final_amperes for c in paper)
