"""The tables of the parsers are those of the grammars, and a table of another grammar is never used."""

import pytest

from candor.core.circuit import netlist
from candor.core.grammar import parser_of, tables_of
from candor.core.parsers import TABLES
from candor.core.quantities import formula

GRAMMARS = {"netlist": netlist.line_grammar(), "formula": formula.GRAMMAR}


@pytest.mark.parametrize("name", GRAMMARS)
def test_the_tables_are_up_to_date(name):
    assert TABLES[name]["digest"] == tables_of(GRAMMARS[name])["digest"]


def test_kept_tables_parse_as_the_grammar_does_and_another_grammar_is_made_anew():
    assert parser_of("netlist", GRAMMARS["netlist"]).parse("R1 a 0 47k").children[0] == "R1"
    other = parser_of("netlist", netlist.GRAMMAR.replace("LETTERS", "Q"))
    assert other.parse("Q1 a 0 1").children[0] == "Q1"
