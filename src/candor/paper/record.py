"""What a certificate says: frozen lines, each traced to an entry by its number; the JSON that is signed is made of them."""

from __future__ import annotations

import datetime as dt

from pydantic import BaseModel, ConfigDict

from candor.core.worded import worded

INOPERATIVE = "inoperative"


class Part(BaseModel):
    """Every part of a certificate is frozen."""

    model_config = ConfigDict(frozen=True)


class ReadingLine(Part):
    """One reading, SI magnitudes: its figures by name, and the value they say; none of a look, which has a word."""

    indicated: float | None
    reference: float | None
    figures: dict[str, float] = {}
    word: str = ""
    direction: str
    entry: int
    reference_from: str = ""


class ContributionLine(Part):
    """One line of a budget, SI."""

    name: str
    standard_uncertainty: float
    reason: str


class PointLine(Part):
    """One test point: means, error, U, k, limit, verdict; SI magnitudes.

    Error, U and limit are in `judged_in`: the unit of the point, or per cent or degrees of arc, or dB. A limit on the value itself
    has no error; a one-sided one no `limit`. A look has what was `seen` instead of numbers.
    """

    point: str
    function: str
    range: str
    applied: str
    unit: str
    kind: str = "needle"
    indicated: float | None
    reference: float | None
    error: float | None
    judged_in: str = ""
    seen: str = ""
    limit_words: str = ""
    share_of_limit: float = 0.0
    uncertainty_share: float = 0.0
    expanded_uncertainty: float
    coverage_factor: float
    degrees_of_freedom: float | None
    limit: float | None
    test_uncertainty_ratio: float | None
    probability_in_tolerance: float | None
    outcome: str
    rising: float | None = None
    falling: float | None = None
    friction_divisions: float | None = None
    notes: str = ""
    state: str = ""
    readings: tuple[ReadingLine, ...]
    budget: tuple[ContributionLine, ...]


class PlaceLine(Part):
    """A test point's place on the ribbon, measured or not; its limit in per cent of full scale."""

    point: str
    function: str
    range: str
    limit_percent: float


class RunLines(Part):
    """One phase."""

    phase: str
    outcome: str
    sentence: str
    points: tuple[PointLine, ...]

    @property
    def word(self) -> str:
        """The outcome as it is said: "not finished" where only some of it was measured."""
        some = self.outcome == "not measured" and any(p.outcome != "not measured" for p in self.points)
        return "not finished" if some else self.outcome


class ReferenceLine(Part):
    """A standard that was used."""

    name: str
    serial: str
    calibrated_on: dt.date | None
    state: str
    age: str
    traceability: str
    good_for: str
    entry: int


class TracedLine(Part):
    """A sentence with the entry it comes from; 0 where it follows from what is missing."""

    text: str
    entry: int


class Statement(TracedLine):
    """What falls short: of which kind, the whole sentence, and in short for where there is little room."""

    kind: str = ""
    short: str = ""


class ConditionLine(TracedLine):
    """A condition of room or line, with its name and the least and most that was noted; None where nothing was."""

    which: str = ""
    low: float | None = None
    high: float | None = None


class DueLine(TracedLine):
    """When it is due again, with its day."""

    on: dt.date | None = None


class UnreadLine(Part):
    """A range that is declared and was not read."""

    function: str
    range: str


class PictureLine(Part):
    """A picture of what was seen at a point: by the digest that its file is named by."""

    text: str
    file: str
    entry: int


class CertificateRecord(Part):
    """All that a certificate says; `head` is the eight words of its job as it was when it was made."""

    format: str = "candor certificate 2"
    number: str
    issued_at: dt.datetime
    issued_by: str
    shop: str
    maker: str
    type: str
    kind: str
    serial: str
    owner: str
    pack_id: str
    pack_edition: str
    pack_digest: str
    received: dt.date | None
    measured: tuple[dt.date, ...]
    told_by: dict[str, int]
    conditions: tuple[ConditionLine, ...]
    references: tuple[ReferenceLine, ...]
    rule: str
    rule_words: str
    coverage_words: str
    advice: str
    remarks: tuple[Statement, ...]
    as_found: RunLines
    as_left: RunLines
    as_left_note: str
    places: tuple[PlaceLine, ...] = ()
    unread: tuple[UnreadLine, ...] = ()
    reference_words: str = ""
    changes: tuple[TracedLine, ...]
    cautions: tuple[str, ...]
    most: str = ""  # what it bears at most, for its label
    not_as_drawn: tuple[TracedLine, ...] = ()
    due: DueLine | None = None
    leaving: tuple[TracedLine, ...] = ()
    steady: tuple[TracedLine, ...] = ()
    pictures: tuple[PictureLine, ...] = ()
    head: str = ""

    @property
    def procedure_words(self) -> str:
        """By what it was calibrated: the pack, or points made as one went."""
        if self.pack_id.startswith("kind."):
            return worded("paper.no_procedure_of_the_maker_ranges")
        return f"{self.pack_id}, edition {self.pack_edition}, {self.pack_digest[:12]}"

    def to_bytes(self) -> bytes:
        """Return the record as JSON, indented: what is signed, byte by byte."""
        return self.model_dump_json(indent=1).encode() + b"\n"
