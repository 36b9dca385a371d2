"""May it be powered: the list, what is still missing, and each check written where it stands."""

from __future__ import annotations

from collections.abc import Sequence

from candor.core.errors import CandorError
from candor.core.jot.line import understand_at
from candor.core.jot.power_meaning import RailOhmsJot, WindingJot
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.voice import Voice
from candor.desktop.bench.writer import Writer
from candor.desktop.frame.because import Because
from candor.desktop.frame.theme import Theme
from candor.desktop.stops.check_rows import SHAPES, CheckList
from candor.notebook.power.may_power import PowerItem, open_items, power_list
from candor.sitting.commands import power_commands
from candor.words.checks import ADVICE, say_found


class MayList(CheckList[PowerItem]):
    """The list before power."""

    def __init__(self, theme: Theme, *, in_hand: JobInHand, writer: Writer, voice: Voice) -> None:
        super().__init__(
            theme,
            voice=voice,
            title="Before power",
            hint="what you saw or measured. A rail: b1 45k per the manual 50k",
            reason="why it may see power although this is not as it should be",
            tip="Power although this line is not as it should be, for the reason written",
        )
        self._in_hand, self._writer = in_hand, writer

    def items(self) -> tuple[PowerItem, ...]:
        """The list as it stands."""
        job = self._in_hand.job
        return power_list(job, self._in_hand.parts()) if job is not None else ()

    def still(self) -> Sequence[PowerItem]:
        """What is open and not overridden."""
        job = self._in_hand.job
        return open_items(job, self._in_hand.parts()) if job is not None else ()

    def done_words(self) -> str:
        """What is said where nothing is open."""
        return "Nothing that was checked blocks power-up."

    def show_job(self) -> None:
        """Show how the list stands."""
        if self._in_hand.job is not None:
            self.show_items()

    def is_measured(self, item: PowerItem, outcome: str) -> bool:
        """Rails and windings are; rails of which none is named, where they are said to be good."""
        return _is_read(item) or (item.key in ("rails", "earth") and outcome == "good")

    def takes(self, item: PowerItem, outcome: str) -> bool:
        """A reading says by itself whether it is good."""
        return outcome == "good" or not _is_read(item)

    def measure(self, item: PowerItem, text: str) -> bool:
        """Write the ohms of a rail or a winding from the field."""
        verb, _, name = item.key.partition(" ")
        if item.key == "earth":
            return self._measure_earth(text)
        said = f"winding {name} {text}" if verb == "winding" else f"chassis {name} {text}"
        try:
            jot = understand_at("power", said)
        except CandorError as error:
            self._voice.refuse(error)
            return False
        if not isinstance(jot, RailOhmsJot | WindingJot):
            example = (
                "140 ohm" if verb == "winding" else "45k per the manual 50k" if name else "b1 45k per the manual 50k"
            )
            self._voice.refuse(f"Give the resistance of a {verb.rstrip('s')}. Example: {example}")
            return False
        return self._writer.jot(jot)

    def _measure_earth(self, text: str) -> bool:
        try:
            jot = understand_at("release", f"earth {text}")
        except CandorError as error:
            self._voice.refuse(error)
            return False
        if jot is None:
            self._voice.refuse(
                f"Candor cannot read “{text}” as an earth bond. Example: 0.12 ohm lead 0.05 ohm at 10 A"
            )
            return False
        return self._writer.jot(jot)

    def settle(self, item: PowerItem, outcome: str, text: str) -> bool:
        """Write a check."""
        return self._writer.do(power_commands.check_item(item.key, outcome, text))

    def let(self, item: PowerItem, reason: str) -> bool:
        """Write that it may see power although one line is not as it should be."""
        return self._writer.do(power_commands.override_check(item.key, reason))

    def explain(self, because: Because) -> None:
        """Say what the line in hand asks for and why."""
        item = self.item()
        because.show_whole(None)
        if item is None:
            because.show_words("Before power", ["Open a job first."])
            return
        where = "" if item.by_hand else " Resolve it at Arrive or at Parts."
        because.show_words(item.title, [f"{say_found(item.found).rstrip('.')}.{where}", ADVICE], SHAPES[item.state])


def _is_read(item: PowerItem) -> bool:
    return item.key.startswith(("rail ", "winding "))
