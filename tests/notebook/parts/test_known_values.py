"""What a part is known to be: never by a reading in the circuit, nor by one of a part that has gone."""

import pytest

from candor.notebook.entries.goods_entries import NeedLine
from candor.notebook.entries.parts_entries import PartMeasured, ReplacementChosen
from candor.notebook.entries.stay_entries import ChangeMade
from candor.notebook.entries.strikes_entries import Struck
from candor.notebook.parts.known_values import known_ohms, known_values
from candor.notebook.work.job import fold
from workbench import open_job


@pytest.fixture
def job(notebook, pack):
    open_job(notebook, pack)
    return lambda: fold("job1", notebook.entries_of("job1"))


def test_what_was_measured_out_of_the_circuit_counts_the_newest_of_it(notebook, job):
    notebook.write("job1", PartMeasured(ref="R3", value=848e3))
    notebook.write("job1", PartMeasured(ref="R3", value=912e3))
    notebook.write("job1", PartMeasured(ref="R3", value=120e3, in_circuit=True))  # what is around it, too
    notebook.write("job1", PartMeasured(ref="R4", value=60e3, in_circuit=True))
    notebook.write("job1", PartMeasured(ref="C4", value=9e-6))
    assert known_ohms(job()) == (("R3", 912e3),)
    assert known_values(job()) == (("C4", 9e-6), ("R3", 912e3))


def test_a_part_that_was_replaced_is_what_was_fitted_and_was_what_it_was(notebook, job):
    notebook.write("job1", PartMeasured(ref="R3", value=912e3))
    changed = notebook.write("job1", ChangeMade(text="replaced R3", part="R3"))
    assert known_ohms(job()) == ()  # nobody knows by what
    line = NeedLine(what="resistor", value=820e3, text="820 kΩ 1 %")
    notebook.write("job1", ReplacementChosen(ref="R3", lines=(line,)))
    assert known_ohms(job()) == (("R3", 820e3),)
    assert known_ohms(job(), changed.number - 1) == (("R3", 912e3),)  # readings taken before it saw the old one
    notebook.write("job1", PartMeasured(ref="R3", value=824e3))  # the new one, measured
    assert known_ohms(job()) == (("R3", 824e3),)
    assert known_ohms(job(), changed.number - 1) == (("R3", 912e3),)
    notebook.write("job1", Struck(target=changed.id))  # it never was replaced
    assert known_ohms(job()) == (("R3", 824e3),)
