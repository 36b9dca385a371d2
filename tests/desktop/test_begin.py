"""A start: parsers kept between starts where the place is ours alone, and nothing collected until the window is up."""

import gc

import pytest

from candor.core.circuit import netlist
from candor.core.grammar import keep_parsers, parser_of
from candor.desktop import begin


@pytest.fixture
def cache(tmp_path, monkeypatch):
    monkeypatch.setattr(begin, "user_cache_path", lambda _: tmp_path / "candor")
    yield tmp_path / "candor"
    gc.unfreeze()
    gc.enable()
    keep_parsers("")


def test_nothing_is_collected_until_the_window_is_up(cache):
    begin.hurry()
    assert not gc.isenabled()
    begin.relax()
    assert gc.isenabled()


def test_a_parser_is_kept_and_one_that_cannot_be_read_is_made_anew(cache):
    begin.hurry()
    netlist._parser.cache_clear()
    line = "R1 a 0 47k"
    assert netlist.parse_netlist(line).elements[0].value == 47e3
    kept = cache / "netlist.grammar"
    assert kept.stat().st_size > 1000
    for spoilt in (kept.read_bytes()[:500], b"", b"no parser"):
        kept.write_bytes(spoilt)
        netlist._parser.cache_clear()
        assert netlist.parse_netlist(line).elements[0].value == 47e3
    other = parser_of("netlist", netlist.GRAMMAR.replace("LETTERS", "Q"))  # another grammar under the same name
    assert other.parse("Q1 a 0 1").children[0] == "Q1"


@pytest.mark.parametrize("mode", [0o777, 0o770])
def test_nothing_is_kept_where_others_may_write(cache, mode):
    cache.mkdir(mode=0o700)
    cache.chmod(mode)
    begin.hurry()
    netlist._parser.cache_clear()
    netlist.parse_netlist("R1 a 0 47k")
    assert not list(cache.iterdir())


def test_a_start_without_room_for_a_cache_goes_on(cache):
    cache.write_text("a file is in the way")
    begin.hurry()
    netlist._parser.cache_clear()
    assert netlist.parse_netlist("R1 a 0 47k").elements[0].value == 47e3
