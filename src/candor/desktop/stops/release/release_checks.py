"""Release checks: the list, each check written where it stands, and the way past it for a written reason."""

from __future__ import annotations

from collections.abc import Sequence

from candor.core.errors import CandorError
from candor.core.jot.line import understand_at
from candor.core.jot.meaning import InsulationJot
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.shop_in_hand import Shop
from candor.desktop.bench.voice import Voice
from candor.desktop.bench.writer import Writer
from candor.desktop.frame.because import Because
from candor.desktop.frame.local_numbers import in_field
from candor.desktop.frame.theme import Theme
from candor.desktop.stops.check_rows import SHAPES, CheckList
from candor.notebook.release.leaving import (
    MEASURED,
    LeavingItem,
    leaving_list,
    open_leaving,
)
from candor.sitting.commands import release_commands
from candor.words.checks import ADVICE, ASKS, say_found

EXAMPLES = {
    "earth": "0.12 ohm lead 0.05 ohm at 10 A",
    "insulation": "22 Mohm @500V",
    "touch": "0.21 mA reversed off",
}


class BeforeList(CheckList[LeavingItem]):
    """The list before it goes."""

    def __init__(self, theme: Theme, *, in_hand: JobInHand, writer: Writer, voice: Voice, shop: Shop) -> None:
        super().__init__(
            theme,
            voice=voice,
            title="Release checks",
            hint="what was seen or measured",
            reason="why it may go although this is not as it should be",
            tip="Sign although this line is not as it should be, for the reason written",
        )
        self._in_hand, self._writer, self._shop = in_hand, writer, shop

    def items(self) -> tuple[LeavingItem, ...]:
        """The list as it stands."""
        job = self._in_hand.job
        rule = self._shop.settings.local_rule
        return leaving_list(job, self._in_hand.parts(), rule) if job is not None else ()

    def still(self) -> Sequence[LeavingItem]:
        """What is open and not overridden."""
        job = self._in_hand.job
        return open_leaving(job, self.items()) if job is not None else ()

    def done_words(self) -> str:
        """What is said where nothing is open."""
        return "All release checks done."

    def show_job(self) -> None:
        """Show how the list stands."""
        if self._in_hand.job is not None:
            self.show_items()
            self.text.setPlaceholderText(
                in_field(EXAMPLES.get(self._chosen, "what was seen, where it is worth a word"))
            )

    def choose(self, key: str) -> None:
        """Take a line in hand."""
        super().choose(key)
        self.text.setPlaceholderText(in_field(EXAMPLES.get(key, "what was seen, where it is worth a word")))

    def is_measured(self, item: LeavingItem, outcome: str) -> bool:
        """Earth bond, insulation and touch current are."""
        return item.key in MEASURED and outcome == "good"

    def takes(self, item: LeavingItem, outcome: str) -> bool:
        """A reading says by itself whether it is bad."""
        return outcome != "bad" or item.key not in MEASURED

    def measure(self, item: LeavingItem, text: str) -> bool:
        """Write what was measured, from the field."""
        try:
            said = f"{item.key} {text}"
            jot, insulation = understand_at("release", said), understand_at("arrive", said)
        except CandorError as error:
            self._voice.refuse(error)
            return False
        if jot is not None:
            return self._writer.jot(jot)
        job = self._in_hand.job
        if isinstance(insulation, InsulationJot) and job is not None:
            return self._writer.jot(insulation)
        self._voice.refuse(f"Candor cannot read “{text}” here. Example: {EXAMPLES[item.key]}")
        return False

    def settle(self, item: LeavingItem, outcome: str, text: str) -> bool:
        """Write a check."""
        return self._writer.do(release_commands.check_leaving(item.key, outcome, text))

    def let(self, item: LeavingItem, reason: str) -> bool:
        """Write that one line is let go."""
        return self._writer.do(release_commands.let_go(item, reason))

    def explain(self, because: Because) -> None:
        """Say what the line in hand asks for and why."""
        item = self.item()
        because.show_whole(None)
        if item is None:
            because.show_words("Release checks", ["Open a job first."])
            return
        words = [say_found(item.found)]
        if item.key in MEASURED:
            words += [
                ASKS[f"release {item.key}"],
                f"Limits by your local rule, in Settings: {self._shop.settings.local_rule.words}.",
            ]
        where = [] if item.by_hand else ["Resolve it at Arrive or at Parts."]
        because.show_words(item.title, [*dict.fromkeys(words), *where, ADVICE], SHAPES[item.state])
