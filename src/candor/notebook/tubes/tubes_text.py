"""Tubes as people write them: a line for a tube, a line for a test, a nudge sheet, and tables in and out."""

from __future__ import annotations

import re

from candor.core.errors import ValueTextError
from candor.core.quantities import parse_number, parse_quantity
from candor.core.tubes.held_line import told_line
from candor.core.tubes.order import BY_KEY, FIGURES
from candor.core.tubes.ratings import kind_of_tube
from candor.core.tubes.sag import line_source
from candor.core.worded import worded
from candor.notebook.entries.tubes_entries import FigureUnit, LineSag, NudgeSaid, TubeRecorded, TubeTested

TUBE_LINE = "T12 MT-1, triode medium mu, 2 sections, nominal 2.6 mS at 150 V by the chart, reject 65 %; getter silver"
TEST_LINE = "gm 2.45 mS line 2 min, 120 to 118.6 V held 4 s, or: gas good"
SAG_LINE = worded("tubes.v_empty_v_with_w")
NUDGE_LINE = "bias 60 uS, line 40 uS, shunt 20 uS"
DASHES_LINE = "bias up 4.12 mS down 3.98 mS, line up 4.09 mS at 121 V down 4.01 mS at 119 V"

_NOMINAL = re.compile(r"nominal\s+(?P<value>.+?)(?:\s+at\s+(?P<volts>\S+\s*V))?(?:\s+by\s+(?P<by>.+))?", re.I)
_REJECT = re.compile(r"reject\s+(?:below\s+)?(?P<share>[\d.,]+)\s*%", re.I)
_SECTIONS = re.compile(r"(?P<count>\d)\s+sections?", re.I)
# Type numbers as they are printed on glass, American and European, and words for a figure: none is the name of one tube on hand.
_TYPE = re.compile(r"\d{1,3}[A-Z]{1,3}\d{1,2}[A-Z]{0,3}|[A-Z]{2,4}\d{2,3}|bogey|bogie|nominal|new", re.I)
_ALSO = {
    "transconductance": "gm", "mutual conductance": "gm", "merit": "emission", "short": "shorts", "leakage": "shorts",
    "eye": "eye open",
}  # fmt: skip
_NAMES = "|".join(sorted((*BY_KEY, *_ALSO), key=len, reverse=True))
_TEST = re.compile(rf"(?:section\s+(?P<section>\S+)\s+)?(?P<test>(?:{_NAMES})(?=\s)|[a-z]+)\s+(?P<rest>\S.*)", re.I)
_TAIL = re.compile(
    r"[\s,]+(?:line\s+(?:set\s+)?(?P<line>[\d.,]+)\s*min"
    r"|(?:line\s+)?(?:fell\s+)?(?:from\s+)?(?P<before>[\d.,]+)\s*V?(?:\s+to\s+|\s*,\s*|\s+and\s+)(?P<during>[\d.,]+)\s*V"
    r"|(?:while\s+)?held\s+(?P<held>[\d.,]+)\s*s|(?P<count>\d+)\s*times\s+scatter\s+(?P<scatter>\S+(?:\s*[a-zA-Zµ]*S)?)"
    r"|(?:on\s+)(?P<tester>.+))$",
    re.I,
)


def read_tube(text: str) -> TubeRecorded:
    """Return a tube from a line; see TUBE_LINE.

    Raises
    ------
    CandorError
    """
    line, _, looks = text.strip().partition(";")
    head, *clauses = [c.strip() for c in line.split(",")]
    words = head.split()
    if len(words) < 2:
        raise ValueTextError(worded("tubes.the_tube_s_own_name_and", head=head), value=head, expected=TUBE_LINE)
    if _TYPE.fullmatch(words[0].rstrip(":")):
        raise ValueTextError(
            worded("tubes.is_a_type_of_tube_begin", first=words[0], tube_line=TUBE_LINE.split(',')[0]),
            value=head, expected=TUBE_LINE,
        )  # fmt: skip
    found: dict[str, object] = {"key": words[0].rstrip(":"), "type": " ".join(words[1:]), "looks": looks.strip()}
    generic: list[str] = []
    for clause in filter(None, clauses):
        if match := _NOMINAL.fullmatch(clause):
            found |= _figure(match["value"], "nominal")
            found["plate_volts"] = parse_quantity(match["volts"], "V").value if match["volts"] else 0.0
            found["nominal_from"] = (match["by"] or "").strip()
        elif match := _REJECT.fullmatch(clause):
            found["reject"] = parse_number(match["share"], worded("tubes.per_cent_of_nominal_such_as")) / 100
        elif match := _SECTIONS.fullmatch(clause):
            count = int(match["count"])
            found["sections"] = tuple(str(i + 1) for i in range(count)) if count > 1 else ("",)
        else:
            generic.append(clause)
    if generic:
        words_of = ", ".join(generic)
        kind = kind_of_tube(words_of)
        found["generic"] = kind.name if kind is not None else words_of
    return TubeRecorded.model_validate(found)


def figure_in(text: str) -> tuple[float, FigureUnit]:
    """Return a figure and its unit: S, or 1 for a place on a scale.

    Raises
    ------
    CandorError
    """
    found = _figure(text, "figure")
    return float(str(found["figure"])), "1" if found.get("unit") == "1" else "S"


def _figure(text: str, name: str) -> dict[str, object]:
    """A figure with S is a transconductance, a bare number a place on a scale."""
    if re.fullmatch(r"[-+\d.,½¼¾/ ]+", text.strip()):
        return {name: parse_number(text.strip(), worded("tubes.a_place_on_the_tester_s")), "unit": "1"}
    return {name: parse_quantity(text, "S").value, "unit": "S"}


def read_test(text: str, tube: TubeRecorded) -> TubeTested:
    """Return a test from a line; see TEST_LINE.

    Raises
    ------
    CandorError
        Where it is not a test, or the tube has more sections than were named: two recorded as one.
    """
    rest = text.strip()
    more: dict[str, object] = {}
    while match := _TAIL.search(rest):
        rest = rest[: match.start()]
        if match["line"]:
            more["line_age_s"] = 60 * parse_number(match["line"], worded("tubes.minutes_such_as"))
        if match["before"]:
            line = told_line(*(parse_number(match[name], "120") for name in ("before", "during")))
            more |= {"line_before_volts": line.before_volts, "line_held_volts": line.held_volts}
        if match["held"]:
            more["hold_s"] = parse_number(match["held"], worded("tubes.seconds_such_as"))
        if match["count"]:
            more["count"] = int(match["count"])
            more["scatter"] = _figure(match["scatter"], "x")["x"]
        if match["tester"]:
            more["tester"] = match["tester"].strip()
    match = _TEST.fullmatch(rest)
    if match is None:
        raise ValueTextError(worded("tubes.is_not_a_test", text=text), value=text, expected=TEST_LINE)
    name = " ".join(match["test"].lower().split())
    test = _ALSO.get(name, name)
    if test not in BY_KEY:
        raise ValueTextError(
            worded("tubes.is_not_a_test_use_one", test=match["test"], listed=", ".join(BY_KEY)),
            value=match["test"],
            expected=", ".join(BY_KEY),
        )
    section = match["section"] or ""
    _sure_of_section(tube, test, section)
    words = match["rest"].strip()
    outcome, _, said = words.partition(" ")
    if test in FIGURES:
        more |= _figure(words, "figure")
    elif outcome.lower().rstrip(":,") in ("good", "bad"):
        more |= {"outcome": outcome.lower().rstrip(":,"), "words": said.strip(" ,:")}
    else:
        raise ValueTextError(
            worded("tubes.good_or_bad_was_expected", title=BY_KEY[test].title, words=words),
            value=words,
            expected=worded("tubes.good_or_bad"),
        )
    return TubeTested.model_validate({"tube": tube.key, "test": test, "section": section, **more})


def _sure_of_section(tube: TubeRecorded, test: str, section: str) -> None:
    if test not in FIGURES or section in tube.sections:
        return
    words = worded("tubes.has_one_section_section_is_of", key=tube.key, section=section)
    if len(tube.sections) > 1:
        listed = " and ".join(s for s in tube.sections if s)
        words = worded("tubes.has_the_sections_say_which_section", key=tube.key, listed=listed, test=test)
    expected = f"section {tube.sections[0]}" if tube.sections[0] else test
    raise ValueTextError(words, value=section or test, expected=expected)


def read_nudges(text: str, type_: str, tester: str) -> tuple[NudgeSaid, ...]:
    """Return a nudge sheet; see NUDGE_LINE and DASHES_LINE: what a dash is worth, or what was read a dash up and a dash down.

    Raises
    ------
    CandorError
        Where it cannot be read, or both readings of a control are not of one unit.
    """
    found = []
    for clause in filter(None, (c.strip() for c in text.split(","))):
        control, _, value = clause.partition(" ")
        if not value:
            raise ValueTextError(
                worded("tubes.what_is_a_dash_of_it", clause=clause), value=clause, expected=NUDGE_LINE
            )
        both = re.fullmatch(r"up\s+(.+?)\s+down\s+(.+)", value.strip(), re.I)
        figure = _by_both(clause, both[1], both[2]) if both else _figure(value, "per_dash")
        found.append(
            NudgeSaid.model_validate({"type": type_, "tester": tester, "control": control.lower(), **figure})
        )
    if not found:
        raise ValueTextError(worded("tubes.nothing_was_written_expected_what_a"), expected=NUDGE_LINE)
    return tuple(found)


def _by_both(clause: str, up: str, down: str) -> dict[str, object]:
    """A dash is worth half of what the reading moves from a dash down to a dash up (the central difference, by definition).

    Where the line was read at both, a volt of it is worth the same difference over theirs.
    """
    (up, up_volts), (down, down_volts) = _at_volts(up), _at_volts(down)
    high, low = _figure(up, "per_dash"), _figure(down, "per_dash")
    if high["unit"] != low["unit"]:
        raise ValueTextError(
            worded("tubes.two_readings_of_one_unit", clause=clause), value=clause, expected=DASHES_LINE
        )
    apart = float(str(high["per_dash"])) - float(str(low["per_dash"]))
    found: dict[str, object] = {"per_dash": apart / 2, "unit": high["unit"]}
    if up_volts is None or down_volts is None:
        return found
    if clause.split()[0].lower() != "line" or up_volts <= down_volts:
        raise ValueTextError(
            worded("tubes.volts_of_the_line_alone", clause=clause), value=clause, expected=DASHES_LINE
        )
    return {**found, "per_volt": apart / (up_volts - down_volts)}


def _at_volts(text: str) -> tuple[str, float | None]:
    """A reading and the volts of the line at it, where they are said."""
    figure, said, volts = text.partition(" at ")
    return figure, parse_quantity(volts, "V").value if said else None


def read_sag(text: str, tester: str) -> LineSag:
    """Return the line of a tester empty and loaded; see SAG_LINE.

    Raises
    ------
    CandorError
        Where it cannot be read, or the line does not fall.
    """
    match = re.fullmatch(
        r"([\d.,]+)\s*V?\s*(?:empty)?\s*[,;]\s*([\d.,]+)\s*V?\s*(?:with|at)\s*([\d.,]+)\s*W?", text.strip(), re.I
    )
    if match is None:
        raise ValueTextError(
            worded("tubes.candor_cannot_read_here_example", text=text, sag_line=SAG_LINE),
            value=text,
            expected=SAG_LINE,
        )
    empty, loaded, watts = (parse_number(g, SAG_LINE) for g in match.groups())
    line_source(empty, loaded, watts)
    return LineSag(tester=tester, empty_volts=empty, loaded_volts=loaded, watts=watts)


def read_points(text: str) -> list[tuple[float, float]]:
    """Return grid volts and plate amperes, a pair a line: ``-3.25  6.10 mA``.

    Raises
    ------
    CandorError
    """
    rows = []
    for number, line in enumerate(filter(None, (x.strip() for x in text.splitlines())), 1):
        match = re.fullmatch(r"(?P<volts>[-−+]?[\d.,]+\s*V?)[\s;:]+(?P<amperes>[\d.,]+\s*[mµu]?A?)", line)
        if match is None:
            words = worded("tubes.line_grid_volts_and_plate_current", number=number, line=line)
            raise ValueTextError(words, value=line, expected="-3.25  6.10 mA")
        written = match["amperes"].strip()
        amperes = written if written.lower().endswith("a") else worded("tubes.ma", written=written)
        rows.append((parse_quantity(match["volts"].replace("−", "-"), "V").value, parse_quantity(amperes, "A").value))
    return rows
