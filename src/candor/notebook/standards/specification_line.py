"""One line of a standard's specification as a meter's handbook prints it: ``6 V, 1 mV: 0.5 % + 2 digits``."""

from __future__ import annotations

import re

from candor.core.errors import CandorError, UnitError, ValueTextError
from candor.core.quantities import engineering, parse_number, parse_quantity
from candor.core.quantities.show import trimmed
from candor.core.worded import worded
from candor.notebook.entries.standards_entries import SpecificationLine

EXAMPLE = worded("standards.v_mv_digits")
EXPECTED = worded("standards.to_v_of_range_or_at", example=EXAMPLE)
_ACCURACY = r"[±+(\s-]*\d[\d.,]*\s*(?:%|ppm)"
_LINE = re.compile(rf"(?P<head>[^:]+?)\s*(?::\s*|\s+(?={_ACCURACY}))(?P<rest>.+)")
_BAND = re.compile(
    r"(?P<low>[^,:]+?)\s*(?:\bto\b|\.\.+|…|–|(?<=\w)\s*-)\s*(?P<high>[^,:]*(?:hz|c/s|cps|cycles|kc|mc))", re.I
)
_FROM_TO = re.compile(r"\d\S*(?:\s?[^\W\d]+)?\s*(?:\bto\b|\.\.+|…|–|-)\s*(?P<high>\d.*)", re.I)
_OF_RANGE = r"(?:of\s+)?(?:the\s+)?(?:range|rng|full[\s-]scale|f\.?\s?s\.?)"
_OF_READING = r"(?:of\s+)?(?:the\s+)?(?:readings?|rdg|rd|value|setting|input|nominal)"
_SHARE = re.compile(
    rf"(?P<number>[\d.,]+)\s*(?P<kind>%|ppm)\s*(?:(?P<range>{_OF_RANGE})|(?P<reading>{_OF_READING}))?", re.I
)
_OF_DIGIT = re.compile(r"^(?:resolution|digits?|counts?|steps?)(?:\s+of)?\s+|\s+(?:resolution|a\s+digit)$", re.I)
_DIGITS = re.compile(r"(?P<counts>[\d.,]+)\s*(?:digits?|dgts?|dgs?|d|counts?|cts?|lsds?|lsbs?)?", re.I)
_TIMES = re.compile(r"(?P<counts>[\d.,]+)\s*(?:[x×*]|(?:digits?|counts?)\s+of)\s*(?P<resolution>.+)", re.I)


def read_specification(line: str, unit: str, display: int = 0) -> SpecificationLine:
    """Read one line.

    Parameters
    ----------
    line : str
        ``6 V, 1 mV, 45 Hz to 1 kHz: 0.5 % + 2 digits``: the range, what its last digit is worth, the band; then the accuracy.
        Shares are of the reading unless they say *of range* or *FS*; a value with its unit is added as it is.
    unit : str
        Of values without one, SI.
    display : int
        Counts of the meter's display, 0 where not known: what a digit is worth where the line does not say.

    Raises
    ------
    ValueTextError, UnitError
        Where it cannot be read, naming what cannot.
    """
    match = _LINE.fullmatch(line)
    if match is None:
        raise ValueTextError(
            worded("standards.candor_cannot_read_here_examples", line=line, expected=EXPECTED), value=line
        )
    rest, *behind = re.split(r"[;,]\s+", match["rest"])
    upper_text, resolution, low, high = _head(", ".join((match["head"], *behind)), unit)
    upper = parse_quantity(upper_text, unit).value
    found = {"percent_of_reading": 0.0, "percent_of_range": 0.0, "counts": 0.0, "resolution": 0.0}
    bare = 0
    for words in _pieces(rest):
        if share := _SHARE.fullmatch(words):
            bare += not (share["range"] or share["reading"])
            key = "percent_of_range" if share["range"] else "percent_of_reading"
            found[key] += parse_number(share["number"], worded("standards.a_share_such_as")) * (
                1e-4 if share["kind"] == "ppm" else 1.0
            )
            continue
        counts, size = _counts(words, unit, resolution or _last_digit(upper_text, unit, upper, display))
        if found["counts"] and size != found["resolution"]:
            raise ValueTextError(
                worded("standards.gives_two_digit_sizes_give_one", rest=match["rest"].strip()), value=line
            )
        found["counts"] += counts
        found["resolution"] = size
    if bare > 1:
        raise ValueTextError(
            worded("standards.has_two_shares_and_does_not", rest=match["rest"].strip()),
            value=match["rest"],
            expected=EXPECTED,
        )
    if upper <= 0:
        raise ValueTextError(
            worded("standards.a_range_ends_above_zero_example", head=match["head"].strip(), example=EXAMPLE),
            value=line,
        )
    if resolution >= upper:
        raise ValueTextError(
            worded(
                "standards.a_digit_of_is_no_part",
                head=match["head"].strip(),
                resolution=engineering(resolution, unit, 4),
                example=EXAMPLE,
            ),
            value=line,
        )
    return SpecificationLine(upper=upper, low_hertz=low, high_hertz=high, **found)


def write_specification(line: SpecificationLine, unit: str) -> str:
    """Return the line that `read_specification` would read back."""
    said = [f"{trimmed(line.percent_of_reading, 6)} %"]
    said += (
        [worded("standards.of_range", percent_of_range=trimmed(line.percent_of_range, 6))]
        if line.percent_of_range
        else []
    )
    said += [f"{trimmed(line.counts, 6)} digit{'' if line.counts == 1 else 's'}"] if line.counts else []
    digit = f", {engineering(line.resolution, unit, 6)}" if line.counts else ""
    band = (
        f"{engineering(line.low_hertz, 'Hz', 6)} to {engineering(line.high_hertz, 'Hz', 6)}, "
        if line.high_hertz
        else ""
    )
    return f"{band}to {engineering(line.upper, unit, 6)}{digit}: {' + '.join(said)}"


def unit_of_line(line: str, units: tuple[str, ...]) -> str:
    """Return the unit that the range in a line is written in; nothing where it is written in none of some."""
    match = _LINE.fullmatch(line)
    if match is None:
        return ""
    for unit in units:
        try:
            upper, *_ = _head(match["head"], unit)
            parse_quantity(upper, unit)
        except CandorError:
            continue
        if re.search(r"[^\W\d_µ]", re.sub(r"[\d.,\s]|^to\b", "", upper)):
            return unit
    return ""


def _head(text: str, unit: str) -> tuple[str, float, float, float]:
    """Return the range as it is written, what a digit is worth (0 where it is not said) and the band in Hz."""
    upper, resolution, low, high = "", 0.0, 0.0, 0.0
    for piece in (piece.strip() for piece in re.split(r";|,(?!\d{3}\b)(?!\d)", text)):
        band = _BAND.fullmatch(re.sub(r"^to\s+", "", piece, flags=re.I)) if not (unit == "Hz" and not upper) else None
        if unit == "Hz" and upper == "" and re.match(r"to\b", piece, re.I) is None:
            band = None
        if band is not None and not high:
            low, high = _band(band)
        elif not upper:
            upper = re.sub(r"^to\s+|\s+range$", "", piece, flags=re.I)
        elif not resolution:
            resolution = parse_quantity(_OF_DIGIT.sub("", piece), unit).value
        else:
            raise ValueTextError(
                worded("standards.is_not_understood_example", piece=piece, example=EXAMPLE), value=piece
            )
    if spread := _FROM_TO.fullmatch(upper):
        raise ValueTextError(
            worded("standards.a_line_holds_from_zero", upper=upper, high=spread["high"].strip()),
            value=upper,
            expected=EXAMPLE,
        )
    if not upper:
        raise ValueTextError(
            worded("standards.the_range_is_missing_example", text=text.strip(), example=EXAMPLE), value=text
        )
    return upper, resolution, low, high


def _band(match: re.Match[str]) -> tuple[float, float]:
    high = parse_quantity(match["high"], "Hz").value
    low_text = match["low"].strip()
    if re.fullmatch(
        r"[\d.,]+", low_text
    ):  # 45-500 Hz: the unit behind counts for both, unless it would turn the band round
        behind = re.sub(r"^[\s\d.,]+", "", match["high"])
        low = parse_quantity(f"{low_text} {behind}", "Hz").value
    else:
        low = parse_quantity(low_text, "Hz").value
    if not low < high:
        raise ValueTextError(worded("standards.the_band_goes_backwards", first=match[0].strip()), value=match[0])
    return low, high


def _pieces(text: str) -> list[str]:
    clean = re.sub(r"\)\s*$", "", re.sub(r"^\s*[±+(\s/-]+", "", text.strip()))
    return [piece.strip(" ()") for piece in re.split(r"\s*(?:\+/-|[+±])\s*", clean) if piece.strip(" ()")]


def _counts(words: str, unit: str, digit: float) -> tuple[float, float]:
    """Return how many digits, and what one is worth: a value with its unit is one of that size."""
    if times := _TIMES.fullmatch(words):
        return parse_number(times["counts"], worded("standards.a_number_of_counts_such_as")), parse_quantity(
            times["resolution"], unit
        ).value
    if digits := _DIGITS.fullmatch(words):
        if not digit:
            raise ValueTextError(
                worded(
                    "standards.how_much_is_a_digit_give",
                    words=words,
                    example=EXAMPLE,
                    unit="V d.c." if unit == "V" else unit,
                ),
                value=words,
            )
        return parse_number(digits["counts"], worded("standards.a_number_of_digits_such_as")), digit
    try:
        return 1.0, parse_quantity(words, unit).value
    except UnitError:
        raise
    except CandorError:
        raise ValueTextError(
            worded("standards.is_not_understood_examples", words=words, expected=EXPECTED), value=words
        ) from None


def _last_digit(upper: str, unit: str, value: float, display: int) -> float:
    """Return what the last digit is worth, by the decimals that the range is printed with or the display's counts."""
    number = re.match(r"\d+[.,](\d+)", upper.strip())
    if number is not None:
        whole = parse_quantity(upper, unit).value
        return whole / float(number[0].replace(",", ".")) * 10.0 ** -len(number[1])
    return value / display if display else 0.0
