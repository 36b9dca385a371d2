"""Release: what was checked before it goes, and the certificates that were signed."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import field
from typing import Annotated, Literal

from pydantic import Field

from candor.core.late_dataclass import dataclass
from candor.core.quantities import engineering
from candor.core.worded import worded
from candor.notebook.entries.body import Body
from candor.notebook.entries.entry import Entry, said
from candor.notebook.entries.fields_entries import NotBelow, Text
from candor.notebook.entries.standing_entries import Standing


class EarthRead(Body):
    """The earth bond from the plug's pin to the case, ohm; what of it is the lead; the test current, A, 0 where nobody said."""

    kind: Literal["earth_read"] = "earth_read"
    ohms: NotBelow
    lead_ohms: NotBelow = 0.0
    amperes: NotBelow = 0.0


class TouchRead(Body):
    """A touch current, A rms; `volts` where it was read across a network of that many ohm."""

    kind: Literal["touch_read"] = "touch_read"
    amperes: NotBelow
    is_reversed: bool
    is_on: bool
    volts: NotBelow = 0.0
    network_ohms: NotBelow = 0.0


class LeavingChecked(Body):
    """One of the checks before it goes."""

    kind: Literal["leaving_check"] = "leaving_check"
    item: Text
    outcome: Literal["good", "bad", "does not apply"]
    text: str = ""


class LeavingOverridden(Body):
    """It goes although some checks are open, for a written reason: it counts for those that stood when it was written."""

    kind: Literal["leaving_overridden"] = "leaving_overridden"
    items: Annotated[tuple[Text, ...], Field(min_length=1)]
    reason: Text


class CertificateIssued(Body):
    """A certificate was signed off; `digest` is of the bytes of its JSON, kept beside the notebook under that name."""

    kind: Literal["certificate"] = "certificate"
    number: str
    digest: str
    sentence: str


class SecondSignature(Body):
    """Another pair of eyes went over a signed certificate: whose."""

    kind: Literal["second_signature"] = "second_signature"
    digest: Text
    name: Text


def _earth(b: EarthRead) -> str:
    lead = worded("entries.of_it_the_lead", lead_ohms=engineering(b.lead_ohms, "ohm")) if b.lead_ohms else ""
    at = f" at {engineering(b.amperes, 'A')}" if b.amperes else ""
    return f"earth bond {engineering(b.ohms, 'ohm')}{at}{lead}"


def _touch(b: TouchRead) -> str:
    across = f" ({engineering(b.volts, 'V')} across {engineering(b.network_ohms, 'ohm')})" if b.volts else ""
    way, switch = "reversed" if b.is_reversed else "as it is", "on" if b.is_on else "off"
    return worded(
        "entries.touch_current_plug_switch",
        amperes=engineering(b.amperes, "A"),
        across=across,
        way=way,
        switch=switch,
    )


WORDS = dict(
    (
        said(EarthRead, lambda b, _: _earth(b)),
        said(TouchRead, lambda b, _: _touch(b)),
        said(
            LeavingChecked,
            lambda b, _: (
                worded("entries.before_it_goes", item=b.item, outcome=b.outcome) + (f", {b.text}" if b.text else "")
            ),
        ),
        said(
            LeavingOverridden,
            lambda b, _: worded("entries.it_goes_although_open", listed=", ".join(b.items), reason=b.reason),
        ),
        said(SecondSignature, lambda b, _: f"second signature: {b.name}"),
        said(
            CertificateIssued,
            lambda b, _: worded("entries.certificate_signed_off", number=b.number, sentence=b.sentence),
        ),
    )
)


@dataclass(frozen=True)
class ReleaseRecord:
    """What was checked before it goes, the newest of each; and the certificates that were signed, the oldest first."""

    certificates: tuple[Entry[CertificateIssued], ...] = ()
    earth: Entry[EarthRead] | None = None
    touch: tuple[Entry[TouchRead], ...] = ()
    checks: Mapping[str, Entry[LeavingChecked]] = field(default_factory=dict)
    overridden: tuple[Entry[LeavingOverridden], ...] = ()
    second: Mapping[str, Entry[SecondSignature]] = field(default_factory=dict)

    def second_words(self, digest: str) -> str:
        """Return who went over a certificate as well, and when; nothing where nobody did."""
        entry = self.second.get(digest)
        return f"{entry.body.name}, {entry.at:%Y-%m-%d}" if entry is not None else ""


def release_record(standing: Standing) -> ReleaseRecord:
    """Return what was checked before it goes, and the certificates that were signed."""
    return ReleaseRecord(
        certificates=standing.of(CertificateIssued),
        earth=standing.newest(EarthRead),
        touch=standing.of(TouchRead),
        checks=standing.by(LeavingChecked, lambda b: b.item),
        overridden=standing.of(LeavingOverridden),
        second=standing.by(SecondSignature, lambda b: b.digest),
    )
