"""Instruments that last: the same maker, type and serial number is one instrument, over all its jobs."""

from __future__ import annotations

import datetime as dt
import re
from collections.abc import Iterator

from candor.core.jot.name_line import Named
from candor.core.late_dataclass import dataclass
from candor.core.worded import worded
from candor.notebook.arrive.pack_choice import packs_at_hand
from candor.notebook.entries.ranges_entries import ranges_record
from candor.notebook.entries.standing_entries import Standing
from candor.notebook.entries.stay_entries import DetailWritten, JobOpened, PackTaken, stay_record
from candor.notebook.entries.strikes_entries import Struck, Unstruck
from candor.notebook.store import Notebook
from candor.notebook.work.set_up_of import Like
from candor.packs.kinds_of_instrument import ELSE, InstrumentKind, Kinds
from candor.packs.model import PackHead

_BODIES = (JobOpened, PackTaken, DetailWritten, Struck, Unstruck)
_KINDS = (*(str(body.model_fields["kind"].default) for body in _BODIES), "range")
MOST_OFFERED = 6


@dataclass(frozen=True)
class Instrument:
    """One instrument, as its newest job names it.

    Attributes
    ----------
    maker, type, serial : str
    pack_digest, kind : str
        Of its newest job.
    jobs : tuple of str
        The oldest first.
    last : datetime
        When it came last.
    ranges : int
        That its newest job has described.
    """

    maker: str
    type: str
    serial: str
    pack_digest: str
    kind: str
    jobs: tuple[str, ...]
    last: dt.datetime
    ranges: int = 0

    @property
    def name(self) -> str:
        """Maker and type."""
        return f"{self.maker} {self.type}".strip()


@dataclass(frozen=True)
class Offer:
    """A way to open a job with what was typed: as an instrument that was here before, with a pack, or by kind alone.

    Attributes
    ----------
    key : str
    text, under : str
        What it says.
    opened : JobOpened
        The entry that would open it.
    head : PackHead or None
        The pack it takes.
    heading : str
        What it stands under.
    fits : bool
        What was typed names it.
    like : Like or None
        The job that it is set up as.
    """

    key: str
    text: str
    under: str
    opened: JobOpened
    head: PackHead | None
    heading: str
    fits: bool
    like: Like | None = None


def identity(name: str, serial: str) -> tuple[str, str]:
    """Return what makes an instrument the same: its name and serial number, capitals and spaces aside."""
    return re.sub(r"\s+", "", name).casefold(), re.sub(r"\s+", "", serial).casefold()


def instruments(notebook: Notebook) -> tuple[Instrument, ...]:
    """Return every instrument that was here, the newest first; one without a serial number is one for each job."""
    by_job: dict[str, list] = {}  # type: ignore[type-arg]
    for entry in notebook.entries_of_kinds(_KINDS):
        if entry.job:
            by_job.setdefault(entry.job, []).append(entry)
    found: dict[object, Instrument] = {}
    for job, entries in by_job.items():
        stay = stay_record(Standing(entries))
        if stay.opened is None:
            continue
        serial = stay.details.get("serial", "")
        key: object = identity(stay.name, serial) if serial else job
        older = found.get(key)
        pack = (stay.pack_taken or stay.opened).body.pack_digest
        newer = older is None or stay.opened.at >= older.last
        kept = (
            stay.details["maker"],
            stay.details["type"],
            serial,
            pack,
            stay.opened.body.instrument_kind,
            stay.opened.at,
            len(ranges_record(Standing(entries)).made),
        )
        maker, type_, number, digest, kind, last, ranges = (
            kept
            if newer or older is None
            else (older.maker, older.type, older.serial, older.pack_digest, older.kind, older.last, older.ranges)
        )
        jobs = (*(older.jobs if older else ()), job) if newer else (job, *(older.jobs if older else ()))
        found[key] = Instrument(
            maker=maker, type=type_, serial=number, pack_digest=digest, kind=kind, jobs=jobs, last=last, ranges=ranges
        )
    return tuple(sorted(found.values(), key=lambda i: i.last, reverse=True))


def known_makers(notebook: Notebook, known: tuple[Instrument, ...]) -> tuple[str, ...]:
    """Return the makers that packs and earlier jobs name."""
    return tuple(dict.fromkeys((*(h.maker for h in packs_at_hand(notebook)), *(i.maker for i in known if i.maker))))


def offers(
    text: str, named: Named | None, *, known: tuple[Instrument, ...], heads: tuple[PackHead, ...], kinds: Kinds
) -> tuple[Offer, ...]:
    """Return the ways to open a job with what was typed, what fits best first: the same serial, then the type, then the kinds.

    Parameters
    ----------
    text : str
        As it was typed.
    named : Named or None
        How that was understood; None where nothing is named yet.
    known, heads, kinds
        The instruments that were here, the packs and the kinds there are.
    """
    words = _words(text)
    name = named or Named()
    before = [_of_instrument(i, kinds) for i in known if named and _same(i, name, words)]
    sisters = [_of_sister(i, name) for i in _sisters(known, name, words)]
    packs = [_of_pack(head, name, words) for head in heads]
    fitting = sorted((p for p in packs if p.fits), key=lambda p: p.text)
    guesses, _ = kinds.fitting(text)
    # Of several, those of whose names most words were typed: a triggered oscilloscope is no recurrent one.
    said = {kind.id: len({*_words(kind.title)} & {*words}) for kind in guesses}
    guessed = {key for key, count in said.items() if count == max(said.values())}
    by_kind = [_of_kind(kind, name, fits=kind.id in guessed) for kind in kinds.kinds.values()]
    # What fits in front; where nothing does, what Enter takes: something else.
    by_kind.sort(key=lambda o: (not o.fits, o.key != f"kind:{ELSE}"))
    others = [p for p in packs if not p.fits]
    return (*before[:MOST_OFFERED], *sisters, *fitting[:MOST_OFFERED], *by_kind, *others)


def chosen_first(found: tuple[Offer, ...]) -> str:
    """Return the key of what Enter would take: what fits; by no more than its name, a kind is something else."""
    fit = next((o for o in found if o.fits), None)
    if ask_which(found):
        return ""
    return fit.key if fit else f"kind:{ELSE}"


def ask_which(found: tuple[Offer, ...]) -> str:
    """Return the question where what was typed is the name of several kinds and nothing else fits: Enter takes none of them."""
    fits = [o for o in found if o.fits]
    if len(fits) < 2 or not all(o.key.startswith("kind:") for o in fits):
        return ""
    return worded("arrive.which_is_it_choose_it_with", listed=" or ".join(o.text.lower() for o in fits))


def _words(text: str) -> list[str]:
    return re.findall(r"\w+", text.casefold())


def _same(instrument: Instrument, named: Named, words: list[str]) -> bool:
    """The same serial number, or every word that was typed is of its name or number."""
    if named.serial and identity("", instrument.serial) == identity("", named.serial):
        return not named.type or not named.maker or "".join(_words(instrument.type)) in "".join(words)
    own = "".join(_words(f"{instrument.name} {instrument.serial}"))
    return bool(words) and bool(instrument.serial) and all(word in own for word in words)


def _of_instrument(i: Instrument, kinds: Kinds) -> Offer:
    times = "once before" if len(i.jobs) == 1 else f"{len(i.jobs)} times before"
    opened = JobOpened(maker=i.maker, type=i.type, serial=i.serial, pack_digest=i.pack_digest, instrument_kind=i.kind)
    what = "" if i.pack_digest else f", {kinds.get(i.kind).title}"
    return Offer(
        key=f"job:{i.jobs[-1]}",
        text=f"{i.name}, no. {i.serial}",
        under=worded("arrive.here_last", times=times, last=i.last, what=what, given=_given(i)),
        opened=opened,
        head=None,
        heading=worded("arrive.it_was_here_before"),
        fits=True,
        like=Like(i.jobs[-1], same_unit=True) if i.ranges else None,
    )


def _given(i: Instrument) -> str:
    """What it brings with it of its newest job."""
    return (
        worded("arrive.its_range_and_points_as_then", ranges=i.ranges, plural="s" if i.ranges > 1 else "")
        if i.ranges
        else ""
    )


def _sisters(known: tuple[Instrument, ...], named: Named, words: list[str]) -> Iterator[Instrument]:
    """Yield the newest of each type that was described by hand and whose name was typed, of another serial number."""
    seen: set[str] = set()
    written = "".join(words)
    for i in known:
        type_ = "".join(_words(i.type))
        fits = bool(type_) and type_ in written and all(word in words for word in _words(i.maker))
        if fits and i.ranges and i.name not in seen and not _same(i, named, words):
            seen.add(i.name)
            yield i


def _of_sister(i: Instrument, named: Named) -> Offer:
    opened = JobOpened(
        maker=i.maker, type=i.type, serial=named.serial, pack_digest=i.pack_digest, instrument_kind=i.kind
    )
    said = f"no. {i.serial}" if i.serial else f"{i.last:%Y-%m-%d}"
    return Offer(
        key=f"like:{i.jobs[-1]}",
        text=worded("arrive.as_the_before_it", name=i.name, said=said),
        under=worded(
            "arrive.its_range_points_parts_and_drawing", ranges=i.ranges, plural="s" if i.ranges > 1 else ""
        ),
        opened=opened,
        head=None,
        heading=worded("arrive.another_of_its_type_was_here"),
        fits=True,
        like=Like(i.jobs[-1], same_unit=False),
    )


def _of_pack(head: PackHead, named: Named, words: list[str]) -> Offer:
    own = "".join(_words(head.type))
    written = "".join(words)
    fits = bool(own) and own in written
    serial = named.serial or (named.type if named.type.isdigit() and not named.maker else "")
    return Offer(
        key=f"pack:{head.digest}",
        text=head.name,
        under=f"{head.kind}: {head.summary}",
        opened=JobOpened(maker=head.maker, type=head.type, serial=serial),
        head=head,
        heading=worded("arrive.a_pack_describes_it") if fits else worded("arrive.described_by_a_pack"),
        fits=fits,
    )


def _of_kind(kind: InstrumentKind, named: Named, fits: bool) -> Offer:
    maker, type_, serial = named.maker, named.type, named.serial
    if not maker and not type_:
        type_, serial = serial, ""
    usual = ", ".join(kind.usual[:4])
    return Offer(
        key=f"kind:{kind.id}",
        text=kind.title.capitalize(),
        under=usual,
        heading=worded("arrive.by_its_kind_alone"),
        fits=fits,
        head=None,
        opened=JobOpened(maker=maker, type=type_, serial=serial, instrument_kind=kind.id),
    )
