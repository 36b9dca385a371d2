"""The guards: one table of the deeds that are refused while something bars them. `Notebook.append` asks it, whoever writes.

A deed is what can hurt when it is done: a state of the power-up plan, a source on a link, a part on the tester, a soak, a
signature. Everything else is a fact: it is written, and judged afterwards. A deed told of another time is a fact too.
"""

from __future__ import annotations

import datetime as dt
from collections.abc import Callable, Iterable, Mapping, Sequence
from functools import cached_property
from typing import cast

from candor.core.errors import CandorError
from candor.core.late_dataclass import dataclass
from candor.core.worded import worded
from candor.notebook.entries.body import Body
from candor.notebook.entries.cleaning_entries import DRYING
from candor.notebook.entries.entry import AnyEntry, Draft, Entry
from candor.notebook.entries.power_entries import StateBegun
from candor.notebook.entries.release_entries import CertificateIssued, SecondSignature
from candor.notebook.entries.runs_entries import RunStarted
from candor.notebook.entries.shop_entries import shop_record
from candor.notebook.entries.soak_entries import SwitchedOn
from candor.notebook.entries.sources_entries import SourceApplied
from candor.notebook.entries.standing_entries import Standing
from candor.notebook.entries.timers_entries import TimerStarted
from candor.notebook.parts.parts_list import PartsList, list_parts
from candor.notebook.work.barriers import BarredError, Work, barrier
from candor.notebook.work.description import PackShelf, base_of, described
from candor.notebook.work.job import Job, fold
from candor.notebook.work.settings import Settings, settings_of


@dataclass(frozen=True)
class Scene:
    """What a guard sees, each worked out when it is asked for.

    Attributes
    ----------
    job : Job
        As it stands just before the write.
    packs : PackShelf
        Where its pack is kept.
    of_shop : callable
        Gives the shop's own entries.
    """

    job: Job
    packs: PackShelf
    of_shop: Callable[[], Iterable[AnyEntry]]

    @cached_property
    def settings(self) -> Settings:
        """What the shop has said."""
        return settings_of(shop_record(Standing(self.of_shop())).details)

    @cached_property
    def parts(self) -> PartsList | None:
        """The parts of the job; None where its pack cannot be read: then nothing of a pack bars."""
        try:
            pack = described(self.job, base_of(self.packs, self.job))
        except CandorError:
            return None
        return list_parts(self.job, pack, mains=self.settings.mains, esr_hertz=self.settings.esr_hertz)


Guard = Callable[[Body, Scene], str]


def _power(_: Body, scene: Scene) -> str:
    return _barred(scene, "power")


def _tester(_: Body, scene: Scene) -> str:
    return _barred(scene, "tester")


def _barred(scene: Scene, work: Work) -> str:
    found = barrier(scene.job, scene.parts, work)
    return found.sentence if found is not None else ""


def _state(body: Body, scene: Scene) -> str:
    """A state with the line on it: nothing of the list before power may be open. Off is never refused."""
    from candor.notebook.power.may_power import open_items, say_not_yet  # loaded where power is in hand

    begun = cast(StateBegun, body)
    return say_not_yet(open_items(scene.job, scene.parts)) if begun.line_volts else ""


def _source(body: Body, scene: Scene) -> str:
    """Volts on a source's terminals; to zero is never refused."""
    return _barred(scene, "power") if cast(SourceApplied, body).value else ""


def _timer(body: Body, scene: Scene) -> str:
    """A warm-up is a deed; drying is not."""
    return "" if cast(TimerStarted, body).step == DRYING else _barred(scene, "power")


def _signing(_: Body, scene: Scene) -> str:
    from candor.notebook.release.leaving import leaving_list, open_leaving, say_open

    items = leaving_list(scene.job, scene.parts, scene.settings.local_rule)
    return say_open(open_leaving(scene.job, items))


def _second(body: Body, scene: Scene) -> str:
    """Another pair of eyes signs what was signed, and nothing else."""
    digest = cast(SecondSignature, body).digest
    if any(e.body.digest == digest for e in scene.job.release.certificates):
        return ""
    return worded("work.no_certificate_with_the_digest_was", digest=digest[:12])


GUARDS: Mapping[type[Body], Guard] = {
    StateBegun: _state,
    SourceApplied: _source,
    RunStarted: _tester,
    SwitchedOn: _power,
    TimerStarted: _timer,
    CertificateIssued: _signing,
    SecondSignature: _second,
}


def is_deed(body: Body) -> bool:
    """Return whether an entry of this kind may be refused at all."""
    return type(body) in GUARDS


def refusal(body: Body, scene: Scene) -> str:
    """Return why an entry may not be written now; empty where it may, and always for a fact."""
    guard = GUARDS.get(type(body))
    return guard(body, scene) if guard is not None else ""


def refuse_barred(
    drafts: Sequence[Draft], packs: PackShelf, entries_of: Callable[[str], tuple[AnyEntry, ...]], now: dt.datetime
) -> None:
    """Do nothing where entries may be written, each as the job stands with those before it.

    Raises
    ------
    BarredError
        Says what bars the first that is barred, and what would lift it.
    """
    for index, draft in enumerate(drafts):
        if not draft.job or draft.at is not None or not is_deed(draft.body):
            continue
        stored = entries_of(draft.job)
        first = stored[-1].number + 1 if stored else 1
        before = (
            Entry(number=first + i, id=d.id, job=d.job, at=d.at or now, who="", body=d.body)
            for i, d in enumerate(drafts[:index])
            if d.job == draft.job
        )
        scene = Scene(fold(draft.job, (*stored, *before)), packs, lambda: entries_of(""))
        words = refusal(draft.body, scene)
        if words:
            raise BarredError(
                worded("work.nothing_was_written", words=words), value=draft.body.kind, place=scene.job.name
            )
