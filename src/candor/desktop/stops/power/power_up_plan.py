"""The way up: what decides it, the way proposed and why, and its steps as lines to edit and keep."""

from __future__ import annotations

from PySide6.QtWidgets import QCheckBox, QComboBox, QGridLayout, QPlainTextEdit, QVBoxLayout, QWidget

from candor.core.errors import CandorError
from candor.core.parts.mains import WORSE
from candor.core.power.fuse import proposed_fuse
from candor.core.power.lamp import proposed_lamp
from candor.core.power.plan import Plan
from candor.core.power.plan_text import plan_lines, read_plan
from candor.core.quantities import parse_number, parse_quantity
from candor.core.quantities.show import trimmed
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.shop_in_hand import Shop
from candor.desktop.bench.voice import Voice
from candor.desktop.bench.writer import Writer
from candor.desktop.frame.because import Because
from candor.desktop.frame.local_numbers import in_field
from candor.desktop.frame.theme import Theme, label
from candor.desktop.widgets.controls import button
from candor.desktop.widgets.field import Field
from candor.desktop.widgets.flow import flow
from candor.notebook.power.powering import plan_of, proposed
from candor.sitting.commands import power_commands

RECTIFIERS = ("unknown", "directly heated", "indirectly heated", "mercury vapour", "solid state", "none")
TRAITS = (("delay_relay", "delay relay", "A relay holds the rails off for half a minute"),
          ("regulated_heaters", "regulated heaters", "The heaters are held by a regulator"),
          ("series_heaters", "heaters in series", "No mains transformer: the chassis is live"),
          ("solid_state", "solid state", "No tube draws from it"), ("fan", "fan", "One should be heard"),
          ("straight_on", "straight on", "Chosen by name: straight to the full line with a wattmeter, once all is known good"),
          ("no_mains", "no mains", "Batteries feed it: nothing here applies"))  # fmt: skip


class WayUp(QWidget):
    """Traits, the plan, and keeping it."""

    def __init__(self, theme: Theme, *, in_hand: JobInHand, writer: Writer, voice: Voice, shop: Shop) -> None:
        super().__init__()
        self._in_hand, self._writer, self._voice, self._shop = in_hand, writer, voice, shop
        self._shown: tuple[str, str] = ("", "")
        self.rectifier = QComboBox()
        self.rectifier.addItems(RECTIFIERS)
        self.rectifier.setAccessibleName("Rectifier")
        self.rectifier.setToolTip("What rectifies: it decides how the rails come up")
        self.watts = Field()
        self.watts.setPlaceholderText("60")
        self.watts.setAccessibleName("Watts by its plate")
        self.watts.setToolTip("What its plate says it takes, W; bands, lamp and fuse follow from it")
        self.fuse = Field()
        self.fuse.setPlaceholderText(in_field("0.5"))
        self.fuse.setAccessibleName("Fuse by its plate, in amperes")
        self.fuse.setToolTip("Where its plate gives no watts: its fuse is the upper figure, A")
        self.traits: dict[str, QCheckBox] = {}
        for key, title, tip in TRAITS:
            made = QCheckBox(title)
            made.setToolTip(tip)
            self.traits[key] = made
        self.way = label("", "heading", bold=True)
        self.why = label("", "text")
        self.helps = label("", "soft")
        self.steps = QPlainTextEdit()
        self.steps.setAccessibleName("Steps of the way up")
        self.steps.setTabChangesFocus(True)
        self.steps.setToolTip(
            "A step a line: line, hold, set, read, expect, cut, then, caution; parted by semicolons"
        )
        self.keep = button("Keep this plan", "Keep the steps as they stand here", name="main")
        self.anew = button("Propose anew", "Forget what was edited here, and propose from what is known")
        grid = QGridLayout()
        grid.setHorizontalSpacing(theme.px(10))
        grid.addWidget(label("rectifier", "soft"), 0, 0)
        grid.addWidget(label("watts by its plate", "soft"), 0, 1)
        grid.addWidget(self.rectifier, 1, 0)
        grid.addWidget(self.watts, 1, 1)
        grid.addWidget(label("fuse by its plate, A", "soft"), 0, 2)
        grid.addWidget(self.fuse, 1, 2)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(theme.px(7))
        column.addLayout(grid)
        column.addLayout(flow(theme.px(12), *self.traits.values()))
        for widget in (self.way, self.why, self.helps, self.steps):
            column.addWidget(widget)
        self.steps.setMinimumHeight(theme.px(250))
        column.addLayout(flow(theme.px(8), self.keep, self.anew))
        column.addStretch()
        self.rectifier.activated.connect(self._say)
        self.watts.editingFinished.connect(self._say)
        self.fuse.editingFinished.connect(self._say)
        for trait in self.traits.values():
            trait.clicked.connect(self._say)
        self.keep.clicked.connect(self._keep)
        self.anew.clicked.connect(self._propose)

    def plan(self) -> Plan | None:
        """The plan that holds for the job in hand."""
        job = self._in_hand.job
        if job is None:
            return None
        return plan_of(job, self._in_hand.pack, self._shop.settings.mains, self._in_hand.parts())

    def show_job(self) -> None:
        """Show what is known and the plan; what is being edited stays."""
        job, plan = self._in_hand.job, self.plan()
        if job is None or plan is None:
            return
        said = job.power.said
        self.rectifier.setCurrentIndex(RECTIFIERS.index(said.rectifier))
        if not self.watts.hasFocus():
            self.watts.setText(trimmed(said.watts) if said.watts else "")
        if not self.fuse.hasFocus():
            self.fuse.setText(trimmed(said.fuse_amperes) if said.fuse_amperes else "")
        for key, made in self.traits.items():
            made.setChecked(getattr(said, key))
        kept = job.power.plan
        self.way.setText(f"{plan.way.capitalize()}{'' if kept is None else f', as kept in entry {kept.number}'}")
        self.why.setText(plan.why)
        self.helps.setText(self._helps(said.watts))
        shown = (job.id, plan_lines(plan))
        if shown != self._shown:
            self._shown = shown
            self.steps.setPlainText(shown[1])

    def _helps(self, watts: float) -> str:
        mains = self._shop.settings.mains or WORSE
        words = [
            f"For {mains.words}"
            + ("" if self._shop.settings.mains else ", until you say the shop's own mains (Settings)")
        ]
        if watts:
            try:
                lamp = proposed_lamp(mains, watts)
                words.append(
                    f"series lamp {trimmed(lamp.lamp_watts)} W: {lamp.load_volts:.0f} V at the set, "
                    f"{lamp.short_amperes:.2g} A through a short"
                )
                fuse = proposed_fuse(watts / mains.volts, 10 * watts / mains.volts)
                words.append(f"fuse {trimmed(fuse.amperes)} A time-lag, {fuse.reason}, taken as ten times")
            except CandorError as error:
                words.append(str(error))
        return "; ".join(words) + "."

    def _say(self) -> None:
        text, fuse_text, watts, fuse = self.watts.text().strip(), self.fuse.text().strip(), 0.0, 0.0
        try:
            watts = parse_number(text.rstrip(" Ww"), "watts such as 60") if text else 0.0
            fuse = parse_quantity(fuse_text, "A").value if fuse_text else 0.0
        except CandorError as error:
            self._voice.refuse(error)
            return
        ticked = {key: made.isChecked() for key, made in self.traits.items()}
        said = {
            "rectifier": self.rectifier.currentText(),
            "watts": max(watts, 0.0),
            "fuse_amperes": max(fuse, 0.0),
            **ticked,
        }
        saying, job = power_commands.say_supply(said), self._in_hand.job
        if job is not None and (job.power.supply is None or (job.power.supply.body,) != saying.bodies):
            self._writer.do(saying)

    def _keep(self) -> None:
        plan = self.plan()
        if plan is None:
            return
        text = self.steps.toPlainText()
        try:
            read_plan(text, plan.way, plan.why)
        except CandorError as error:
            self._voice.refuse(error)
            return
        if self._writer.do(power_commands.keep_plan(plan.way, plan.why, text.strip())):
            self._voice.say("The plan is kept.")

    def _propose(self) -> None:
        job = self._in_hand.job
        if job is not None:
            plan = proposed(job, self._in_hand.pack, self._shop.settings.mains, self._in_hand.parts())
            self.way.setText(plan.way.capitalize())
            self.why.setText(plan.why)
            self.steps.setPlainText(plan_lines(plan))
            if job.power.plan is not None:
                self._writer.strike(job.power.plan)

    def explain(self, because: Because) -> None:
        """Say why this way."""
        plan = self.plan()
        because.show_whole(None)
        if plan is not None:
            because.show_words(
                plan.way.capitalize(),
                [plan.why,
                 "A step begins with its name and a colon. Separate what it says with semicolons, or put it on indented lines "
                 "below. Example: warm: line 161 V; hold 2 min; set intensity down; read b1 190..230 V; expect click at 30 s; "
                 "cut b1 beyond 350 V; then …; caution …",
                 "Bands are the drawing's voltages for this line, ±20 % where it gives no tolerance [common practice, no source]. "
                 "Until the tubes draw current, the cut line is what the rail reaches without them, or the rating of its "
                 "capacitor."],
            )  # fmt: skip
