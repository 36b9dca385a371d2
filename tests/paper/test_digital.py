"""The digital certificate: order of its elements (schema for digital calibration certificates 3.3, from memory: the schema is not
shipped), the rules, leaf types and units that published readers of it carry (dcclib 0.4, dccXMLJSONConv 2.3 and dsiUnits 3.1,
open source, of the metrology institute that keeps the schema), and that every number in it is the one that was signed."""

from __future__ import annotations

import re
import warnings
from xml.etree import ElementTree

import pytest
from dcclib.validation import SchematronValidator
from dccXMLJSONConv.dccConv import XMLToJson, dcc
from dsi_unit import DsiUnit

from candor.demo.demo_notebook import write_demo
from candor.notebook.release.certificates import read_certificate
from candor.notebook.work.job import fold
from candor.paper.digital import CONDITIONS, DCC, INSTANCE, SI, UNITS, DigitalError, digital_certificate
from candor.paper.record import CertificateRecord

NAMES = {"dcc": DCC, "si": SI}
ORDER = {
    "digitalCalibrationCertificate": ["administrativeData", "measurementResults"],
    "administrativeData": [
        "dccSoftware", "coreData", "items", "calibrationLaboratory", "respPersons", "customer", "statements",
    ],
    "coreData": [
        "countryCodeISO3166_1", "usedLangCodeISO639_1", "mandatoryLangCodeISO639_1", "uniqueIdentifier", "receiptDate",
        "beginPerformanceDate", "endPerformanceDate", "performanceLocation", "issueDate",
    ],
    "item": ["name", "manufacturer", "model", "identifications"],
    "measurementResult": ["name", "usedMethods", "usedSoftware", "measuringEquipments", "influenceConditions", "results"],
    "measuringEquipment": ["name", "description", "identifications"],
    "result": ["name", "data"],
}  # fmt: skip


@pytest.fixture(scope="module")
def signed(tmp_path_factory):
    notebook = write_demo(tmp_path_factory.mktemp("digital") / "d.candor")
    digest = fold("sb40188", notebook.entries_of("sb40188")).release.certificates[-1].body.digest
    record = CertificateRecord.model_validate_json(read_certificate(notebook.certificate_folder, digest))
    notebook.close()
    return record, digest


@pytest.fixture(scope="module")
def root(signed):
    return ElementTree.fromstring(digital_certificate(*signed, "NO"))


def local(element):
    return element.tag.partition("}")[2]


def test_elements_stand_in_the_order_of_the_schema(root):
    assert root.attrib["schemaVersion"].startswith("3.")
    seen = set()
    for element in root.iter():
        order = ORDER.get(local(element))
        if order is not None:
            children = [local(child) for child in element]
            places = [order.index(name) for name in dict.fromkeys(children)]
            assert places == sorted(places), (local(element), children)
            seen.add(local(element))
    assert seen == set(ORDER)
    assert all(content.text for content in root.iter(f"{{{DCC}}}content"))


def test_every_number_is_the_one_that_was_signed(signed, root):
    record, digest = signed
    assert (
        root.findtext("dcc:administrativeData/dcc:coreData/dcc:uniqueIdentifier", namespaces=NAMES)
        == f"{record.number} {digest}"
    )
    runs = root.findall("dcc:measurementResults/dcc:measurementResult", NAMES)
    assert len(runs) == 2  # as found, as left
    for run, said in zip(runs, (record.as_found, record.as_left), strict=True):
        held = {"basic_referenceValue": [], "basic_measuredValue": [], "basic_measurementError": []}
        spread: list[float] = []
        for quantity in run.iterfind("dcc:results//dcc:quantity", NAMES):
            values = quantity.findtext("si:realListXMLList/si:valueXMLList", namespaces=NAMES)
            if values is not None:
                assert quantity.findtext("si:realListXMLList/si:unitXMLList", namespaces=NAMES) == "\\volt"
                held[quantity.attrib["refType"]] += map(float, values.split())
            found = quantity.find(".//si:expandedMUXMLList", NAMES)
            if found is not None:
                spread += map(float, found.findtext("si:valueExpandedMUXMLList", namespaces=NAMES).split())
                assert found.findtext("si:coverageProbabilityXMLList", namespaces=NAMES) == "0.9545"
        assert held["basic_referenceValue"] == pytest.approx([p.reference for p in said.points])
        assert held["basic_measuredValue"] == pytest.approx([p.indicated for p in said.points])
        assert held["basic_measurementError"] == pytest.approx([p.error for p in said.points], abs=1e-12)
        assert spread == pytest.approx([p.expanded_uncertainty for p in said.points])


@pytest.fixture(scope="module")
def rules():
    return SchematronValidator.for_dcc()


def broken(rules, xml):
    """What the published rules say of a certificate, information left aside."""
    said = rules.validate_str(xml.decode())
    return [
        found.text for found in (*said.failed_assertions, *said.successful_reports) if found.role != "information"
    ]


def test_the_published_rules_find_nothing(signed, rules):
    record, digest = signed
    whole = digital_certificate(record, digest, "NO")
    assert broken(rules, whole) == []
    bare = record.model_copy(
        update={"conditions": (), "owner": "", "maker": "", "serial": "", "shop": "", "received": None}
    )
    assert broken(rules, digital_certificate(bare, digest, "NO")) == []
    # the rules do bite: without the conditions, and with one value fewer than the others
    assert broken(rules, re.sub(rb"<dcc:influenceConditions>.*?</dcc:influenceConditions>", b"", whole, flags=re.S))
    assert broken(rules, whole.replace(b"v0.", b"0."))


def test_a_published_reader_knows_every_element_and_reads_every_number(signed, root):
    record, digest = signed
    xml = digital_certificate(record, digest, "NO").decode()
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")  # it says of each repeated element that it makes a list of it
        reader = dcc()
        reader.read_dcc_string(xml)
        reader.xml2dict()
        read = XMLToJson(xml)
    assert root.attrib[f"{{{INSTANCE}}}schemaLocation"].split() == [DCC, f"{DCC}/v3.3.0/dcc.xsd"]
    assert reader.schema_version == "3.3.0"  # so the types are those of this version's schema
    kinds = {**reader.XSD_non_list_dict, **dict.fromkeys(reader.XSD_list_dict, list)}
    untyped = set()
    for element in root.iter():
        name = f"{'si' if SI in element.tag else 'dcc'}:{local(element)}"
        if (element.text or "").strip():
            if name not in kinds:
                untyped.add(name)
            elif kinds[name] is list:
                cast = reader.XSD_list_dict[name]
                assert [cast(part) for part in element.text.split()], name
            else:
                assert name not in ("dcc:mainSigner",) or element.text in ("true", "false")
                assert not len(element), name
    assert untyped <= {
        "dcc:content",
        "dcc:issuer",
        "dcc:performanceLocation",
    }  # words in a language, and two enumerations
    runs = read["dcc:digitalCalibrationCertificate"]["dcc:measurementResults"]["dcc:measurementResult"]
    values = [
        float(number)
        for run in runs
        for text in found_in(run["dcc:results"], "basic_measurementError", "si:valueXMLList")
        for number in text.split()
    ]
    assert values == pytest.approx(
        [p.error for run in (record.as_found, record.as_left) for p in run.points], abs=1e-12
    )


def found_in(tree, kind, name, inside=False):
    """The texts of elements of one name in what the reader made, under quantities of one kind."""
    if isinstance(tree, list):
        for part in tree:
            yield from found_in(part, kind, name, inside)
    elif isinstance(tree, dict):
        inside = inside or tree.get("@refType") == kind
        for key, part in tree.items():
            if inside and key == name:
                yield part["#text"]
            else:
                yield from found_in(part, kind, name, inside)


@pytest.mark.parametrize("unit", sorted({*UNITS.values(), *(unit for _, _, unit in CONDITIONS)}))
def test_every_unit_is_one_of_d_si(unit):
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")  # it takes the middle of "ampere" for a word it would have given up
        assert DsiUnit(unit).valid and not DsiUnit("\\nosuch").valid


@pytest.mark.parametrize(
    ("digest", "country", "why"),
    [("", "NO", "sign the certificate"), ("ab", "", "in which country"), ("ab", "no", "in which")],
)
def test_what_it_asks_for_is_asked_for(signed, digest, country, why):
    with pytest.raises(DigitalError, match=why):
        digital_certificate(signed[0], digest, country)


def test_characters_that_xml_has_no_place_for_spoil_nothing(signed):
    record, digest = signed
    made = record.model_copy(update={"owner": "A <b> & \x00 \ud800 C", "serial": "\x0b7"})
    root = ElementTree.fromstring(digital_certificate(made, digest, "NO"))
    assert (
        root.findtext("dcc:administrativeData/dcc:customer/dcc:name/dcc:content", namespaces=NAMES) == "A <b> &   C"
    )
