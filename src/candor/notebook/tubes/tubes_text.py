"""Tubes as people write them: a line for a tube, a line for a test, a nudge sheet, and tables in and out."""

from __future__ import annotations

import re

from candor.core.errors import ValueTextError
from candor.core.quantities import parse_number, parse_quantity
from candor.core.tubes.order import BY_KEY, FIGURES
from candor.core.tubes.ratings import kind_of_tube
from candor.core.tubes.sag import line_source
from candor.notebook.entries.tubes_entries import LineSag, NudgeSaid, TubeRecorded, TubeTested

TUBE_LINE = "T12 MT-1, triode medium mu, 2 sections, nominal 2.6 mS at 150 V by the chart, reject 65 %; getter silver"
TEST_LINE = "gm 2.45 mS line 2 min held 4 s, or: gas good"
SAG_LINE = "120.4 V empty, 118.9 V with 22 W"
NUDGE_LINE = "bias 60 uS, line 40 uS, shunt 20 uS"

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
    r"\s+(?:line\s+(?:set\s+)?(?P<line>[\d.,]+)\s*min|held\s+(?P<held>[\d.,]+)\s*s|(?P<count>\d+)\s*times\s+scatter\s+(?P<scatter>\S+(?:\s*[a-zA-Zµ]*S)?)"
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
        raise ValueTextError(
            f"“{head}”: the tube's own name and its type were expected.", value=head, expected=TUBE_LINE
        )
    if _TYPE.fullmatch(words[0].rstrip(":")):
        raise ValueTextError(
            f"“{words[0]}” is a type of tube. Begin with the tube's own name. Example: {TUBE_LINE.split(',')[0]}",
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
            found["reject"] = parse_number(match["share"], "per cent of nominal such as 65") / 100
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


def _figure(text: str, name: str) -> dict[str, object]:
    """A figure with S is a transconductance, a bare number a place on a scale."""
    if re.fullmatch(r"[-+\d.,½¼¾/ ]+", text.strip()):
        return {name: parse_number(text.strip(), "a place on the tester's scale such as 78"), "unit": "1"}
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
            more["line_age_s"] = 60 * parse_number(match["line"], "minutes such as 2")
        if match["held"]:
            more["hold_s"] = parse_number(match["held"], "seconds such as 4")
        if match["count"]:
            more["count"] = int(match["count"])
            more["scatter"] = _figure(match["scatter"], "x")["x"]
        if match["tester"]:
            more["tester"] = match["tester"].strip()
    match = _TEST.fullmatch(rest)
    if match is None:
        raise ValueTextError(f"“{text}” is not a test.", value=text, expected=TEST_LINE)
    name = " ".join(match["test"].lower().split())
    test = _ALSO.get(name, name)
    if test not in BY_KEY:
        raise ValueTextError(
            f"“{match['test']}” is not a test. Use one of {', '.join(BY_KEY)}.",
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
            f"{BY_KEY[test].title}: “{words}”; good or bad was expected.", value=words, expected="good or bad"
        )
    return TubeTested.model_validate({"tube": tube.key, "test": test, "section": section, **more})


def _sure_of_section(tube: TubeRecorded, test: str, section: str) -> None:
    if test not in FIGURES or section in tube.sections:
        return
    words = f"{tube.key} has one section; “section {section}” is of a tube with several."
    if len(tube.sections) > 1:
        listed = " and ".join(s for s in tube.sections if s)
        words = f"{tube.key} has the sections {listed}: say which, “section 1 {test} …”. One figure for two says nothing of either."
    expected = f"section {tube.sections[0]}" if tube.sections[0] else test
    raise ValueTextError(words, value=section or test, expected=expected)


def read_nudges(text: str, type_: str, tester: str) -> tuple[NudgeSaid, ...]:
    """Return a nudge sheet; see NUDGE_LINE.

    Raises
    ------
    CandorError
    """
    found = []
    for clause in filter(None, (c.strip() for c in text.split(","))):
        control, _, value = clause.partition(" ")
        if not value:
            raise ValueTextError(f"“{clause}”: what is a dash of it worth?", value=clause, expected=NUDGE_LINE)
        figure = _figure(value, "per_dash")
        found.append(
            NudgeSaid.model_validate({"type": type_, "tester": tester, "control": control.lower(), **figure})
        )
    if not found:
        raise ValueTextError(
            "Nothing was written. Expected: what a dash of each control is worth.", expected=NUDGE_LINE
        )
    return tuple(found)


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
        raise ValueTextError(f"Candor cannot read “{text}” here. Example: {SAG_LINE}", value=text, expected=SAG_LINE)
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
            words = f"line {number}: “{line}”: grid volts and plate current were expected."
            raise ValueTextError(words, value=line, expected="-3.25  6.10 mA")
        written = match["amperes"].strip()
        amperes = written if written.lower().endswith("a") else f"{written} mA"
        rows.append((parse_quantity(match["volts"].replace("−", "-"), "V").value, parse_quantity(amperes, "A").value))
    return rows
