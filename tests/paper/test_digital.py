"""The digital certificate: structure and order of its elements (schema for digital calibration certificates 3.3, D-SI 2, from
memory: the schema is not shipped), and that every number in it is the one that was signed."""

from __future__ import annotations

from xml.etree import ElementTree

import pytest

from candor.demo.shop import write_demo
from candor.notebook.certificates import read_certificate
from candor.notebook.job import fold
from candor.paper.digital import DCC, SI, DigitalError, digital_certificate
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
    "measurementResult": ["name", "usedMethods", "measuringEquipments", "influenceConditions", "results"],
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
                assert found.findtext("si:coverageProbabilityXMLList", namespaces=NAMES) == "0.95"
        assert held["basic_referenceValue"] == pytest.approx([p.reference for p in said.points])
        assert held["basic_measuredValue"] == pytest.approx([p.indicated for p in said.points])
        assert held["basic_measurementError"] == pytest.approx([p.error for p in said.points], abs=1e-12)
        assert spread == pytest.approx([p.expanded_uncertainty for p in said.points])


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
        root.findtext("dcc:administrativeData/dcc:customer/dcc:name/dcc:content", namespaces=NAMES) == "A <b> & ? ? C"
    )
