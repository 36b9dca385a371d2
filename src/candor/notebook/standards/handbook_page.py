"""A page of a meter's handbook, or of a calibrator's, put as the lines that a standard is read from, each with its own number.

Pages head their tables, name the quantity in front of its ranges, list ranges that one accuracy holds for, print resolutions in a
column or a line of their own, and the band in the heading. What cannot be told apart stays as it is, to be refused with a sentence.
"""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from itertools import pairwise
from typing import NamedTuple

from candor.core.errors import CandorError
from candor.core.quantities import parse_quantity
from candor.notebook.standards.quantity_heading import read_heading


class PageLine(NamedTuple):
    """A line as it is read, and the number of the one on the page it comes from."""

    number: int
    text: str


_N = r"\d+(?:[.,]\d+)*(?:\s?(?:[pnuµmkMG]?(?:V|A|F|H|Hz|S|s|[Oo]hms?|Ω)|[kM](?![a-zA-Z])))?"
_ACCURACY = r"[±+(\s/-]*\d[\d.,]*\s*(?:%|ppm)"
_COLUMNS = re.compile(
    r"(?:ranges?|resolution|res|accuracy|acc|uncertainty|function|input|frequency|band|full scale|digit|display|year|1|90|days?|of"
    r"|reading|rdg|rng|percent|%|ppm|\+|±|[()/|,.:]|\s)+",
    re.I,
)
_OF_BOTH = re.compile(
    r"[(\[]?(?P<unit>%|ppm)\s*(?:of\s+)?(?:reading|rdg|output|setting)\s*\+\s*(?:%|ppm)\s*(?:of\s+)?(?:range|rng|scale)[)\]]?",
    re.I,
)
_TWO_BARE = re.compile(r"(?P<head>.*?[\s:])(?P<one>[\d.,]+)\s*\+\s*(?P<other>[\d.,]+)\s*$")
_NOT_FOR_ACCURACY = re.compile(
    r"\s*\((?:1|one|90|24)\s*-?(?:years?|yr|days?|d|h|hours?)\)|\b(?:accuracy|basic accuracy)\s*[:=]?\s*(?=[±+(\d])",
    re.I,
)
_RANGES_BEHIND = re.compile(
    rf"(?P<accuracy>{_ACCURACY}.*?)[,;]?\s+(?:on |for )?(?:the )?ranges?\s*:?\s+(?P<list>\d.*)", re.I
)
_THINGS = (
    (re.compile(r"\b(?:decade\s+)?(?:resistors?|resistance\s+box)|(?:resistance\s+)?decade(?:\s+box)?\b", re.I), "ohm"),
    (re.compile(r"\b(?:decade\s+)?capacitors?\b", re.I), "F"), (re.compile(r"\binductors?\b", re.I), "H"),
)  # fmt: skip
_NOISE = re.compile(r"\b(?:calibrator|measurements?|function|output|input|mode|meter|source|standard)\b|[()]", re.I)
_FIRST_VALUE = re.compile(rf"(?=(?:up\s+)?(?:to\s+)?{_N}|±|\+/-|\+-)", re.I)
_BAND = re.compile(
    r"[(,]?\s*(?P<low>\d[\d.,]*\s*[kM]?(?:Hz)?)\s*(?:-|–|to|\.\.+)\s*(?P<high>\d[\d.,]*\s*[kM]?Hz)\s*\)?", re.I
)
_DISPLAY = re.compile(r"[,;]?\s*\(?(?P<counts>\d{3,6})[\s-]counts?(?:\s+display)?\)?\s*$", re.I)
_LISTED = re.compile(r"(?P<what>ranges?|resolutions?|accuracy)\s*[:=]\s*(?P<rest>\S.*)", re.I)
_FROM_ZERO = re.compile(r"^(?:0(?:\.0+)?\s*(?:[a-zA-Z]{1,3})?\s*(?:-|–|to|\.\.+)|up\s+to)\s*(?=\d)", re.I)


def lines_of_page(text: str) -> list[PageLine]:
    """Return the lines that a page says, headings among them; a line that is one already stays as it is."""
    found: list[PageLine] = []
    page = _Page()
    for number, line in enumerate(text.splitlines(), 1):
        clean = " ".join(line.split())
        if clean:
            found += [PageLine(number, said) for said in page.read(clean)]
    return [*found, *(PageLine(number, said) for number, said in page.rest())]


class _Page:
    """What was said above a line and holds for it: a band, shares of both, ranges and resolutions in lines of their own."""

    def __init__(self) -> None:
        self._band, self._share, self._used = "", "", False
        self._ranges: list[str] = []
        self._resolutions: list[str] = []
        self._number = 0

    def rest(self) -> Iterator[tuple[int, str]]:
        """Yield ranges that no accuracy came for, to be refused."""
        if self._ranges:
            yield self._number, f"ranges {', '.join(self._ranges)}"

    def read(self, line: str) -> Iterator[str]:
        self._number += 1
        if both := _OF_BOTH.search(line):
            self._share, self._used = both["unit"], False
            if _COLUMNS.fullmatch(line):
                return
        if _COLUMNS.fullmatch(line) and not re.search(r"\d\s*(?:%|ppm)", line) and read_heading(line) is None:
            return
        if listed := _LISTED.fullmatch(line):
            yield from self._listed(listed["what"].lower()[:3], listed["rest"])
            return
        line = _NOT_FOR_ACCURACY.sub(
            "", _OF_BOTH.sub("", line) if both and not re.search(r"\d\s*%", line) else line
        ).strip()
        heading, band, line = _headed(line)
        display = _DISPLAY.search(line) if heading or _is_list(line) else None
        if display is not None:
            line = line[: display.start()].strip()
            heading = f"{heading}, {display['counts']} counts" if heading else ""
        if heading:
            # Shares in the columns' heads hold for the table under them, not for the next quantity's.
            self._share = "" if self._used and not both else self._share
            self._band = band
            yield heading
        if behind := _RANGES_BEHIND.fullmatch(line):
            line = f"{behind['list']}: {behind['accuracy']}"
        for piece in re.split(rf";\s*(?={_N}\s*[:±]?)", line):
            yield from self._ranged(piece.strip())

    def _listed(self, what: str, rest: str) -> Iterator[str]:
        if what == "ran":
            self._ranges = _values(rest)
        elif what == "res":
            self._resolutions = _values(rest)
        else:
            digits = self._resolutions if len(self._resolutions) == len(self._ranges) else [""] * len(self._ranges)
            accuracy = _NOT_FOR_ACCURACY.sub("", rest)
            for upper, digit in zip(self._ranges, digits, strict=True):
                yield f"{self._before()}{upper}{f', {digit}' if digit else ''}: {accuracy}"
            self._ranges, self._resolutions = [], []

    def _before(self) -> str:
        return f"{self._band}, " if self._band else ""

    def _ranged(self, line: str) -> Iterator[str]:
        if not line:
            return
        line = _FROM_ZERO.sub("to ", line)
        if self._share and "%" not in line and "ppm" not in line and (bare := _TWO_BARE.fullmatch(line)):
            self._used = True
            line = f"{bare['head'].strip(' :')}: {bare['one']} {self._share} + {bare['other']} {self._share} fs"
        before = "" if _BAND.search(line) else self._before()
        parts = re.match(rf"(?P<left>.*?)\s*:?\s*(?P<accuracy>{_ACCURACY}.*)", line)
        left = parts["left"] if parts else ""
        values = re.findall(rf"(?<![\w.]){_N}", left)
        plain = re.sub(r"[\s,;/|&]|\band\b", "", re.sub(rf"(?<![\w.]){_N}", "", left)) == ""
        if parts is None or not plain or len(values) < 2:
            yield f"{before}{line}" if parts else line
        elif _rises(values):
            yield from (f"{before}{value}: {parts['accuracy']}" for value in values)
        elif len(values) == 2:
            yield f"{before}{values[0]}, {values[1]}: {parts['accuracy']}"
        else:
            yield line


def _headed(line: str) -> tuple[str, str, str]:
    """Return the heading in front of a line, the band in it, and what is left; empty where it has none."""
    if read_heading(line) is not None and ":" not in line:
        return line, "", ""
    at = _FIRST_VALUE.search(line)
    front, rest = (line[: at.start()], line[at.start() :]) if at is not None else (line, "")
    named = front
    for thing, unit in _THINGS:
        named = thing.sub(unit, named)
    named = " ".join(_NOISE.sub(" ", named).split()).strip(" :,-–")
    if not named or re.fullmatch(r"(?:at|to|bears|holds|range)", named, re.I):
        return "", "", line
    heading = read_heading(named)
    if heading is None:
        return "", "", line
    band = _BAND.match(rest)
    if band is not None and heading.unit != "Hz":
        low = (
            band["low"]
            if re.search(r"[a-z]", band["low"], re.I)
            else f"{band['low'].strip()} {re.sub(r'^[^kMH]*', '', band['high'])}"
        )
        return named, f"{low} to {band['high']}", rest[band.end() :].strip(" :,")
    return named, "", rest


def _is_list(line: str) -> bool:
    left = re.split(_ACCURACY, line, maxsplit=1)[0]
    return _rises(re.findall(rf"(?<![\w.]){_N}", left))


def _values(text: str) -> list[str]:
    return re.findall(rf"(?<![\w.]){_N}", text)


def _rises(values: Sequence[str]) -> bool:
    """Whether values grow, so that they are ranges; a value behind a larger one is what its last digit is worth."""
    sizes = []
    behind = (m[1] for v in reversed(values) if (m := re.search(r"([A-Za-zΩ]+)$", v)))
    unit = next((unit for unit in behind if unit not in ("k", "M")), "")
    for value in values:
        written = value if re.search(r"[A-Za-zΩ]$", value) else f"{value} {unit}"
        size = _size(written)
        if size is None:
            return False
        sizes.append(size)
    return len(sizes) > 1 and all(a < b for a, b in pairwise(sizes))


def _size(written: str) -> float | None:
    for unit in ("ohm", "V", "A", "F", "H", "Hz", "s", "S"):
        try:
            return parse_quantity(written, unit).value
        except CandorError:
            continue
    return None
