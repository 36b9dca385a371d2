"""The digital certificate: what was signed, in the open XML schema for digital calibration certificates, version 3.3.

Units are those of D-SI 2. Element names and their order are those of the schema published at the namespace it names, from
memory: the schema itself is not shipped, and nothing is fetched; the tests hold it to the element lists, units and rules that
published readers of it carry. Every value is SI; U is expanded at 95.45 %, with its factor.
"""

from __future__ import annotations

import datetime as dt
import math
import re
from collections.abc import Iterable
from itertools import groupby
from xml.etree import ElementTree

from candor.core.errors import CandorError
from candor.core.uncertainty.coverage import COVERAGE_PROBABILITY
from candor.core.worded import worded
from candor.paper.record import CertificateRecord, PointLine, RunLines
from candor.paper.sheet import printable
from candor.version import __version__
from candor.words.proof_words import say_proof

DCC, SI, VERSION = "https://ptb.de/dcc", "https://ptb.de/si", "3.3.0"
INSTANCE = "http://www.w3.org/2001/XMLSchema-instance"
UNITS = {
    "V": "\\volt", "A": "\\ampere", "ohm": "\\ohm", "Ω": "\\ohm", "F": "\\farad", "H": "\\henry", "Hz": "\\hertz",
    "s": "\\second", "S": "\\siemens", "W": "\\watt", "%": "\\percent", "dB": "\\decibel", "°": "\\degree", "1": "\\one",
    "": "\\one",
}  # fmt: skip
CONDITIONS = (
    ("celsius", "Temperature", "\\degreecelsius"),
    ("humidity", "Humidity", "\\percent"),
    ("line_volts", "Line", "\\volt"),
)
ElementTree.register_namespace("dcc", DCC)
ElementTree.register_namespace("si", SI)
ElementTree.register_namespace("xsi", INSTANCE)


class DigitalError(CandorError, ValueError):
    """What a digital certificate cannot be made of."""


def digital_certificate(record: CertificateRecord, digest: str, country: str) -> bytes:
    """Return a signed certificate as XML, UTF-8.

    Parameters
    ----------
    record : CertificateRecord
    digest : str
        Of the signed JSON: it is the unique identifier, with the number.
    country : str
        Of the shop, two letters by ISO 3166-1, which the schema asks for.

    Raises
    ------
    DigitalError
        Where it is not signed, no country is said, or nothing was measured.
    """
    if not digest:
        raise DigitalError(worded("paper.there_is_no_digital_certificate_sign"))
    if not re.fullmatch("[A-Z]{2}", country):
        raise DigitalError(
            worded("paper.a_digital_certificate_says_in_which"),
            value=country, expected=worded("paper.two_letters_by_iso"),
        )  # fmt: skip
    if not record.measured:
        raise DigitalError(worded("paper.there_is_no_digital_certificate_of"))
    # The order of elements is the schema's: it is a sequence, another order is not a certificate.
    where = {f"{{{INSTANCE}}}schemaLocation": f"{DCC} {DCC}/v{VERSION}/dcc.xsd"}
    root = ElementTree.Element(f"{{{DCC}}}digitalCalibrationCertificate", {"schemaVersion": VERSION, **where})
    _administration(_in(root, "administrativeData"), record, digest, country)
    results = _in(root, "measurementResults")
    runs = [record.as_found] + ([record.as_left] if record.as_left.phase != record.as_found.phase else [])
    for run in runs:
        if run.points:
            _measured(_in(results, "measurementResult", refType="basic_measurementResult"), record, run)
    ElementTree.indent(root)
    written: bytes = ElementTree.tostring(root, encoding="utf-8", xml_declaration=True)
    return written + b"\n"


def _in(
    parent: ElementTree.Element, name: str, text: str | None = None, space: str = DCC, **more: str
) -> ElementTree.Element:
    made = ElementTree.SubElement(parent, f"{{{space}}}{name}", more)
    made.text = None if text is None else printable(text)
    return made


def _named(parent: ElementTree.Element, name: str, words: str) -> None:
    _in(_in(parent, name), "content", printable(words), lang="en")


def _administration(data: ElementTree.Element, record: CertificateRecord, digest: str, country: str) -> None:
    _software(_in(data, "dccSoftware"))
    core = _in(data, "coreData")
    _in(core, "countryCodeISO3166_1", country)
    _in(core, "usedLangCodeISO639_1", "en")
    _in(core, "mandatoryLangCodeISO639_1", "en")
    _in(core, "uniqueIdentifier", f"{record.number} {digest}")
    if record.received is not None:
        _in(core, "receiptDate", record.received.isoformat())
    _in(core, "beginPerformanceDate", record.measured[0].isoformat())
    _in(core, "endPerformanceDate", record.measured[-1].isoformat())
    _in(core, "performanceLocation", "laboratory")
    _in(core, "issueDate", record.issued_at.astimezone(dt.UTC).date().isoformat())
    item = _in(_in(data, "items"), "item")
    _named(item, "name", record.kind or "instrument")
    _named(_in(item, "manufacturer"), "name", record.maker or "not noted")
    _in(item, "model", printable(record.type))
    serial = _in(_in(item, "identifications"), "identification", refType="basic_serialNumber")
    _in(serial, "issuer", "manufacturer")
    _in(serial, "value", printable(record.serial) or "not noted")
    _named(serial, "name", "Serial number")
    contact = _in(_in(data, "calibrationLaboratory"), "contact")
    _named(contact, "name", record.shop or record.issued_by)
    _in(_in(contact, "location"), "countryCode", country)
    person = _in(_in(data, "respPersons"), "respPerson")
    _named(_in(person, "person"), "name", record.issued_by)
    _in(person, "mainSigner", "true")
    customer = _in(data, "customer")
    _named(customer, "name", record.owner or "not noted")
    statements = _in(data, "statements")
    proof = (say_proof(record.head),) if record.head else ()
    for remark in (
        record.rule_words,
        record.coverage_words,
        record.advice,
        *proof,
        *(line.text for line in record.remarks),
        *filter(None, (record.most,)),
    ):
        _declared(statements, remark)
    for line in record.steady:
        _declared(statements, line.text)
    if record.due is not None:
        _declared(statements, f"Due {record.due.text}")


def _software(parent: ElementTree.Element) -> None:
    made = _in(parent, "software")
    _named(made, "name", "Candor")
    _in(made, "release", f"v{__version__.replace('dev', '')}")  # a letter, then digits alone, as the rules ask


def _declared(statements: ElementTree.Element, words: str) -> None:
    _named(_in(statements, "statement"), "declaration", words)


def _measured(result: ElementTree.Element, record: CertificateRecord, run: RunLines) -> None:
    _named(result, "name", f"{run.phase}: {run.outcome}")
    method = _in(_in(result, "usedMethods"), "usedMethod")
    _named(method, "name", f"Calibration by {record.procedure_words}")
    _software(_in(result, "usedSoftware"))
    equipment = _in(result, "measuringEquipments")
    for line in record.references:
        made = _in(equipment, "measuringEquipment")
        _named(made, "name", line.name)
        _named(made, "description", f"{line.good_for}. {line.age} {line.traceability}.")
        if line.serial:
            own = _in(_in(made, "identifications"), "identification")
            _in(own, "issuer", "owner")
            _in(own, "value", printable(line.serial))
    _conditions(result, record)
    results = _in(result, "results")
    for (function, name), group in groupby(run.points, key=lambda p: (p.function, p.range)):
        points = tuple(group)
        made = _in(results, "result")
        _named(made, "name", f"{function}, {name}")
        data = _in(made, "data")
        for unit, alike in groupby((p for p in points if not p.seen), key=lambda p: (p.unit, p.judged_in or p.unit)):
            _quantities(_in(data, "list"), unit, tuple(alike))
        for point in points:
            if point.seen:
                _named(data, "text", f"{point.point}: {point.seen}, {point.outcome}")


def _conditions(result: ElementTree.Element, record: CertificateRecord) -> None:
    """What the room was: from the least to the most where numbers were noted, else in words, that nothing was noted included."""
    conditions = _in(result, "influenceConditions")
    found = []
    for which, name, unit in CONDITIONS:
        for line in record.conditions:
            if line.which == which and line.low is not None and line.high is not None:
                found.append((name, unit, sorted({line.low, line.high})))
    for name, unit, values in found:
        made = _in(conditions, "influenceCondition")
        _named(made, "name", name)
        _listed(_in(_in(made, "data"), "quantity"), values, unit)
    if not found:
        made = _in(conditions, "influenceCondition")
        _named(made, "name", "Conditions")
        _named(
            _in(made, "data"), "text", " ".join(c.text for c in record.conditions) or worded("paper.none_was_noted")
        )


def _quantities(held: ElementTree.Element, units: tuple[str, str], points: tuple[PointLine, ...]) -> None:
    """Reference, indication and error of points in one unit; an error has its U."""
    unit, judged_in = (UNITS.get(u, "") for u in units)
    said = (("reference", "basic_referenceValue"), ("indicated", "basic_measuredValue"))
    for field, kind in said:
        values = [getattr(p, field) for p in points]
        if unit and all(v is not None and math.isfinite(v) for v in values):
            quantity = _in(held, "quantity", refType=kind)
            _named(quantity, "name", "Reference value" if field == "reference" else "Indicated value")
            _listed(quantity, values, unit)
    errors = [p.error for p in points if p.error is not None]
    if judged_in and errors and len(errors) == len(points):
        quantity = _in(held, "quantity", refType="basic_measurementError")
        _named(quantity, "name", "Measurement error")
        held_list = _listed(quantity, errors, judged_in)
        spread = _in(
            _in(held_list, "measurementUncertaintyUnivariateXMLList", space=SI), "expandedMUXMLList", space=SI
        )
        _in(spread, "valueExpandedMUXMLList", _numbers(p.expanded_uncertainty for p in points), SI)
        _in(spread, "coverageFactorXMLList", _numbers(p.coverage_factor for p in points), SI)
        _in(spread, "coverageProbabilityXMLList", f"{COVERAGE_PROBABILITY:.4f}", SI)
    verdicts = _in(held, "quantity", refType="basic_conformity")
    _named(verdicts, "name", worded("paper.conformity_of_each_point"))
    _named(verdicts, "noQuantity", "; ".join(f"{p.point}: {p.outcome}" for p in points))


def _listed(quantity: ElementTree.Element, values: Iterable[float], unit: str) -> ElementTree.Element:
    made = _in(quantity, "realListXMLList", space=SI)
    _in(made, "valueXMLList", _numbers(values), SI)
    _in(made, "unitXMLList", unit, SI)
    return made


def _numbers(values: Iterable[float]) -> str:
    return " ".join(f"{value:.9g}" for value in values)
