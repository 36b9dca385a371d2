"""Two more jobs of the demo: an oscilloscope with its parts half done, and a capacitor checker that has just arrived."""

from __future__ import annotations

import datetime as dt
import math
from collections.abc import Mapping
from pathlib import Path

from candor.core.parts.policy import Electrolytics, Sight
from candor.demo.gathered_entries import Writing
from candor.durably import make_private, write_durably
from candor.notebook.entries.arrive_entries import FindingNoted, FindingSettled, ItemLookedAt
from candor.notebook.entries.goods_entries import NeedLine
from candor.notebook.entries.parts_entries import PartMeasured, PolicyChosen, ReplacementChosen
from candor.notebook.entries.runs_entries import RunEnded, RunStarted
from candor.notebook.entries.shop_entries import StockCounted
from candor.notebook.entries.stay_entries import ChangeMade, DetailWritten, JobOpened, PriceAgreed, Spent, StatusSet
from candor.notebook.runs.run_files import digest_of_run
from candor.notebook.store import Place
from candor.packs.model import Pack

SCOPE, CHECKER = "sb40221", "sb40224"
COOKING = (SCOPE, "C17")  # on the simulated tester while the demo is open
MINUTE = dt.timedelta(minutes=1)


def write_parts_jobs(writing: Writing, packs: Mapping[str, Pack], now: dt.datetime) -> None:
    """Write stock, the oscilloscope and the capacitor checker; dates are counted back from `now`."""
    _stock(writing, now - dt.timedelta(days=60))
    _scope(writing, packs["marrowby-os40"], now)
    _checker(writing, packs["wexcombe-cc21"], now)


def _stock(writing: Writing, at: dt.datetime) -> None:
    film = (
        ("47n", 47e-9, 630, 2),
        ("22n", 22e-9, 630, 5),
        ("10n", 10e-9, 1000, 8),
        ("100n", 100e-9, 400, 12),
        ("3n3", 3.3e-9, 1000, 6),
    )
    electrolytic = (("10u", 10e-6, 450, 4), ("22u", 22e-6, 450, 3), ("47u", 47e-6, 350, 3), ("22u-63", 22e-6, 63, 10))
    ohms = (
        *(
            (f"{v}", v, 0.01, "metal film", 0.5, 10)
            for v in (100, 220, 470, 820, 1e3, 1.5e3, 2.2e3, 3.3e3, 4.7e3, 6.8e3)
        ),
        *((f"{v}", v, 0.01, "metal film", 0.5, 8) for v in (10e3, 15e3, 22e3, 33e3, 47e3, 68e3, 100e3, 150e3, 220e3)),
        *(
            (f"{v}", v, 0.01, "metal film", 0.5, 6)
            for v in (470e3, 560e3, 680e3, 1e6, 1.5e6, 2.2e6, 3.3e6, 4.7e6, 10e6)
        ),
        *((f"{v}w", v, 0.05, "metal film", 2.0, 4) for v in (1e3, 10e3, 27e3, 47e3, 100e3)),
    )
    bodies = [
        StockCounted(key=f"film-{name}", what="capacitor", value=value, tolerance=0.1, make="film", volts=volts, count=count,
                     place="drawer C2", supplier="Fenwick Components", price=0.6)
        for name, value, volts, count in film
    ]  # fmt: skip
    bodies += [
        StockCounted(key=f"el-{name}", what="capacitor", value=value, tolerance=0.2, make="electrolytic", volts=volts, celsius=105,
                     count=count, place="drawer C5", supplier="Fenwick Components", price=1.4)
        for name, value, volts, count in electrolytic
    ]  # fmt: skip
    bodies += [
        StockCounted(key=f"r-{name}", what="resistor", value=value, tolerance=tolerance, make=make, volts=350, watts=watts,
                     count=count, place="drawer R", supplier="Quayside Parts", price=0.1)
        for name, value, tolerance, make, watts, count in ohms
    ]  # fmt: skip
    bodies.append(StockCounted(key="y2", what="capacitor", value=4.7e-9, tolerance=0.2, make="ceramic", safety="Y2", count=6,
                               place="drawer C1", supplier="Fenwick Components", price=0.35))  # fmt: skip
    writing.add_all("", bodies, at)


def _scope(writing: Writing, pack: Pack, now: dt.datetime) -> None:
    start = now - dt.timedelta(days=3)
    opened = JobOpened(maker=pack.maker, type=pack.type, serial="2216", pack_digest=writing.notebook.keep_pack(pack))
    details = {
        "owner": "E. Ravn, Harbour Row",
        "says": "dead since the move, smelt hot",
        "stored": "cellar",
        "cost": "60",
    }
    writing.add_all(SCOPE, [opened, *(DetailWritten(field=k, text=v) for k, v in details.items())], start)
    cord = writing.add(
        SCOPE, FindingNoted(zone="cord", mark="hazard", text="two-wire cord, no earth"), start + 5 * MINUTE
    )
    writing.add(SCOPE, FindingNoted(zone="supply", mark="fix", text="can C41 bulges at its base"), start + 9 * MINUTE)
    writing.add(SCOPE, FindingSettled(finding=cord.id, how="cleared", reason="three-wire cord, case bonded, 0.07 ohm"),
                    start + 80 * MINUTE)  # fmt: skip
    policy = PolicyChosen(sight=Sight.REPLACE, electrolytics=Electrolytics.REFORM)
    writing.add_all(SCOPE, [policy, PriceAgreed(agreed=60, an_hour=15)], start + 82 * MINUTE)
    at = now - dt.timedelta(hours=4)
    for index, body in enumerate(_measured()):
        writing.add(SCOPE, body, at + 3 * index * MINUTE)
    _reformed_in_vain(writing, at + 70 * MINUTE)
    writing.add(SCOPE, ChangeMade(text="replaced C11 with 22 nF 10 % 630 V film", part="C11"), now - 45 * MINUTE)
    fenwick, quayside = "Fenwick Components", "Quayside Parts"
    film = NeedLine(what="capacitor", value=47e-9, tolerance=0.1, make="film", volts=630, text="47 nF 10 % 630 V film",
                    stock="film-47n", supplier=fenwick, price=0.6)  # fmt: skip
    can = NeedLine(what="capacitor", value=22e-6, make="electrolytic", volts=500, celsius=105, count=3,
                   text="22 µF 500 V electrolytic 105 °C", supplier=fenwick, price=3.8)  # fmt: skip
    metal = NeedLine(what="resistor", value=330e3, tolerance=0.01, make="metal film", volts=350, watts=0.5,
                     text="330 kΩ 1 % 350 V 0.5 W metal film", supplier=quayside, price=0.15)  # fmt: skip
    for ref, need in (("C8", film), ("C41 a", can), ("R24", metal)):
        writing.add(SCOPE, ReplacementChosen(ref=ref, arrangement=need.text, lines=(need,)), now - 40 * MINUTE)
    writing.add(SCOPE, Spent(minutes=100, text="parts measured"), now - 30 * MINUTE)
    writing.notebook.keep_place(Place(SCOPE, "parts", ""), start)


def _measured() -> list[PartMeasured]:
    volts5 = {"dwell_s": 300.0}
    said = (
        {"ref": "C9", "value": 27e-6, "esr": 3.1, "hertz": 120.0},
        {"ref": "C9", "leakage": 4e-6, "leakage_volts": 20.0, **volts5},
        {"ref": "C41 a", "state": "intermittent"},
        {"ref": "C41 c", "value": 17.2e-6, "esr": 88.0, "hertz": 120.0},
        {"ref": "C41 b", "value": 18.4e-6, "esr": 6.1, "hertz": 120.0},
        {"ref": "C17", "value": 43e-6, "esr": 3.4, "hertz": 120.0},
        {"ref": "C8", "leakage": 14e-6, "leakage_volts": 300.0, **volts5},
        {"ref": "C12", "leakage": 0.09e-6, "leakage_volts": 500.0, **volts5},
        {"ref": "C14", "leakage": 0.02e-6, "leakage_volts": 300.0, "dwell_s": 60.0},
        {"ref": "C14", "value": 498e-12},
        {"ref": "R22", "value": 1.204e6, "percent": 0.2},
        {"ref": "R23", "value": 133.1e3, "percent": 0.2},
        {"ref": "R24", "value": 366e3, "warm": 374e3},
        {"ref": "R25", "value": 301e3, "in_circuit": True},
        {"ref": "R10", "value": 118e3, "in_circuit": True},
        {"ref": "R14", "value": 49.1e3, "warm": 49.9e3},
        {"ref": "R60", "value": 1.01e3, "in_circuit": True},
    )
    return [PartMeasured.model_validate(body) for body in said]


_TYPED = 45  # readings: one every half minute, and one after the discharge


def _keep_run(path: Path) -> str:
    """Write what was typed of a run whose current hardly falls any more, and return the digest of the file."""
    lines = ["seconds,volts,amperes,source_volts"]
    for index in range(_TYPED - 1):
        volts = min(400.0, 40.0 * (index + 1))
        amperes = (2.9e-3 + 4e-3 * math.exp(-index / 9)) * volts / 400
        lines.append(f"{30 * (index + 1):.3f},{volts:g},{amperes:.3g},{volts:g}")
    lines.append(f"{30 * _TYPED + 60:.3f},12.4,0,0")
    make_private(path.parent)
    write_durably(path, ("\n".join(lines) + "\n").encode(), is_kept=True)
    return digest_of_run(path.parent, path.name)


def _reformed_in_vain(writing: Writing, at: dt.datetime) -> None:
    started = RunStarted(ref="C41 b", mode="reform", target_volts=400, dwell_s=300, limit=420e-6, most_s=7200, tester="by hand",
                         file="C41b-demo.csv")  # fmt: skip
    run = writing.add(SCOPE, started, at)
    ended = RunEnded(run=run.id, ref="C41 b", why="no progress: by its fall the limit will not be met", outcome="no progress",
                     leakage=2.9e-3, expanded=8e-5, volts=400, dwell_s=1300, measured_volts=12.4, safe=True,
                     readings=_TYPED, file=started.file, digest=_keep_run(writing.notebook.run_folder / started.file))  # fmt: skip
    writing.add(SCOPE, ended, at + 24 * MINUTE)


def _checker(writing: Writing, pack: Pack, now: dt.datetime) -> None:
    start = now - dt.timedelta(minutes=50)
    opened = JobOpened(maker=pack.maker, type=pack.type, serial="0873", pack_digest=writing.notebook.keep_pack(pack))
    details = {"owner": "the college", "says": "eye never closes", "stored": "shed, damp", "cost": "25"}
    writing.add_all(CHECKER, [opened, *(DetailWritten(field=k, text=v) for k, v in details.items())], start)
    found = (("cord", "hazard", "cord perished, no fuse"), ("clips", "fix", "one clip without its sleeve"),
             ("face", "note", "pointer a little loose on its shaft"))  # fmt: skip
    for index, (zone, mark, text) in enumerate(found):
        body = FindingNoted.model_validate({"zone": zone, "mark": mark, "text": text})
        writing.add(CHECKER, body, start + (4 + index) * MINUTE)
    writing.add(CHECKER, ItemLookedAt(zone="case", item="rust"), start + 12 * MINUTE)
    writing.add(CHECKER, StatusSet(status="wants hands", text="looked over, nothing measured"), start + 13 * MINUTE)
    writing.notebook.keep_place(Place(CHECKER, "arrive", ""), start)
