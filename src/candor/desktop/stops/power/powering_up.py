"""On the way up: the state in hand, what is read in it between band and cut line, what should happen, and the alarm."""

from __future__ import annotations

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QApplication, QPushButton, QVBoxLayout, QWidget

from candor.core.errors import CandorError
from candor.core.finding import Finding
from candor.core.jot import JotContext
from candor.core.jot.line import understand_at
from candor.core.power.plan import Plan, PlanStep
from candor.core.power.plan_text import say_seconds
from candor.core.power.watch import Watched, judge
from candor.core.quantities.show import countdown, trimmed
from candor.desktop.bench.clock import Clock
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.meters_in_hand import PowerMeters
from candor.desktop.bench.shop_in_hand import Shop
from candor.desktop.bench.voice import Voice
from candor.desktop.bench.writer import Writer
from candor.desktop.frame.because import Because
from candor.desktop.frame.local_numbers import in_field
from candor.desktop.frame.speech import Speech
from candor.desktop.frame.theme import Theme, label
from candor.desktop.stops.power.meterpanel import MeterPanel
from candor.desktop.stops.power.silence import Silence
from candor.desktop.stops.power.strips import Strip, Strips
from candor.desktop.widgets.caution import Caution
from candor.desktop.widgets.controls import button, empty
from candor.desktop.widgets.field import Field
from candor.desktop.widgets.flow import Flow, flow
from candor.desktop.widgets.row_list import Row, RowList
from candor.notebook.power.may_power import open_items, say_not_yet
from candor.notebook.power.powering import OnTheWay, may_begin, on_the_way, plan_of
from candor.notebook.store import Notebook
from candor.sitting.commands import power_commands
from candor.words.power_words import say_creep, say_may_begin, say_watched

USUAL_STRIP, TALL_STRIP, TALL_WINDOW = 56, 104, 960  # px at 100 %


class Going(QWidget):
    """The states of the plan, one in hand.

    Signals
    -------
    mayAsked(), afterAsked()
        What is still missing, or what comes after, is to be shown.
    """

    mayAsked = Signal()
    afterAsked = Signal()

    def __init__(
        self,
        theme: Theme,
        *,
        in_hand: JobInHand,
        writer: Writer,
        voice: Voice,
        clock: Clock,
        shop: Shop,
        speech: Speech,
        meters: PowerMeters,
        notebook: Notebook,
    ) -> None:
        super().__init__()
        self._theme, self._in_hand, self._writer, self._voice = theme, in_hand, writer, voice
        self._clock, self._shop, self._speech, self._meters = clock, shop, speech, meters
        self._chosen, self._told = "", ("", 0)
        self._shown_events: tuple[tuple[str, str], ...] = ()
        self.alarm = label("", "hand", bold=True, tint="brick")
        self.alarm_words = label("", "text", tint="brick")
        self.steps = RowList(theme, "States of the way up")
        self.settings = label("", "text")
        self.caution = Caution(theme, bold=True)
        self.understood = button("Understood", "The caution was read; it is not asked again for this job")
        self.begin = button("Begin", "Set the line and begin this state", name="main")
        self.off = button("Plug is out", "Write down that the plug was pulled: pull it first", "", "main")
        self.time = label("", "soft")
        self.strips = Strips(theme)
        self.silence = Silence(theme, voice=voice, speech=speech, meters=meters)
        self.reason = Field()
        self.reason.setPlaceholderText("why an earlier step is not needed")
        self.reason.setAccessibleName("Reason for beginning without the earlier steps")
        self.read = Field()
        self.read.setPlaceholderText(in_field("b1 287, watts 31, line 119.5, or what happened: click"))
        self.read.setAccessibleName("What is read or happens now")
        self.read.setToolTip(
            "A rail and its volts, watts, line volts, or an event. The jot line takes the same: rail b1 287"
        )
        self.events: dict[str, QPushButton] = {}
        self._flow = Flow(theme.px(6))
        self.creep = Caution(theme)
        self.links = MeterPanel(theme, in_hand=in_hand, meters=meters, voice=voice, shop=shop, notebook=notebook)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(theme.px(7))
        for widget in (
            self.alarm,
            self.alarm_words,
            self.silence,
            self.steps,
            self.settings,
            self.caution,
            self.reason,
        ):
            column.addWidget(widget)
        column.addLayout(flow(theme.px(8), self.understood, self.begin, self.off))
        column.addWidget(self.time)
        column.addWidget(self.strips)
        column.addLayout(self._flow)
        column.addWidget(self.creep)
        column.addWidget(self.read)
        column.addWidget(self.links)
        column.addStretch()
        self.steps.picked.connect(self.choose)
        self.understood.clicked.connect(self._understand)
        self.begin.clicked.connect(self._begin)
        self.off.clicked.connect(self.plug_out)
        self.read.returnPressed.connect(self._read)
        self._meters.changed.connect(self._show_live)
        self._meters.crossed.connect(self._cross)

    def plan(self) -> Plan | None:
        """The plan that holds."""
        job = self._in_hand.job
        if job is None:
            return None
        return plan_of(job, self._in_hand.pack, self._shop.settings.mains, self._in_hand.parts())

    def step(self) -> PlanStep | None:
        """The state in hand: chosen, or begun last, or the first."""
        plan, job = self.plan(), self._in_hand.job
        if plan is None or job is None:
            return None
        by_title = {s.title: s for s in plan.steps}
        state = job.power.state
        return by_title.get(self._chosen) or (by_title.get(state.body.title) if state else None) or plan.steps[0]

    def way(self) -> OnTheWay | None:
        """Where it is now."""
        plan, job = self.plan(), self._in_hand.job
        if plan is None or job is None:
            return None
        names = self._meters.states() if self._meters.job == job.id else ()
        live = {name: self._meters.recent(name) for name in names}
        return on_the_way(job, plan, self._clock.now(), self._in_hand.parts(), live)

    def show_job(self) -> None:
        """Show how it stands; called on every change and every tick."""
        job, plan, way, step = self._in_hand.job, self.plan(), self.way(), self.step()
        if job is None or plan is None or way is None or step is None:
            return
        begun = job.power.begun
        rows = []
        for s in plan.steps:
            is_now = way.step is not None and s.title == way.step.title
            shape = "running" if is_now else "full" if s.title in begun else "ring"
            line = f"line {trimmed(s.line_volts)} V" if s.line_volts else "line off"
            rows.append(
                Row(
                    s.title,
                    f"{s.title} · {line}" + (f" · {say_seconds(s.hold_s)}" if s.hold_s else ""),
                    shape=shape,
                    strong=s is step,
                )
            )
        self.steps.show_rows(tuple(rows), step.title)
        self.steps.fit(8)
        self.settings.setText("; ".join(f"set {words}" for words in step.settings))
        self.settings.setVisible(bool(step.settings))
        asks = bool(step.caution) and step.caution not in job.power.understood
        self.caution.say(step.caution if asks else "")
        self.understood.setVisible(asks)
        is_now = way.step is not None and way.step.title == step.title
        self.begin.setText(f"Begin: {step.title}, line {trimmed(step.line_volts)} V")
        self.begin.setVisible(not is_now)
        self.begin.setEnabled(not asks)
        self.off.setVisible(job.power.state is not None)
        held = say_may_begin(may_begin(job, plan, step)) if not is_now and not asks else ""
        self.reason.setVisible(bool(held))
        self.reason.setToolTip(held)
        if self._meters.job == job.id:  # those of another job go on being watched by its own state
            self._meters.watch(way.step, way.since_s)
        self._show_state(way, step)
        self.silence.show_way(job, way, self.strips_of(way))
        self._show_alarm(way)
        self.links.show_meters()

    def _show_state(self, way: OnTheWay, step: PlanStep) -> None:
        job = self._in_hand.job
        state = job.power.state if job is not None else None
        live = way.step is not None and state is not None
        if live and way.step is not None:
            left = way.step.hold_s - way.since_s
            held = f"{countdown(left)} to go" if left > 0 else "held long enough" if way.step.hold_s else ""
            then = f"; then {way.step.then}" if way.step.then and left <= 0 else ""
            self.time.setText(f"{way.step.title} since {countdown(way.since_s)}; {held}{then}")
        else:
            is_on = job is not None and job.power.is_live
            lost = (
                "The instrument is on, but its power-up step is no longer in the plan, so nothing is being watched. "
                "Start a step of the plan, or pull the plug."
            )
            out = "The plug is out." if job is not None and job.power.out else "Not switched on yet."
            self.time.setText(lost if is_on else out)
        self.strips.grow(TALL_STRIP if self.window().height() > self._theme.px(TALL_WINDOW) else USUAL_STRIP)
        strips = self.strips_of(way) if live else []
        self.strips.show_strips(way.step, strips, way.since_s)
        self.strips.setVisible(bool(strips))
        self.read.setVisible(live)
        self.creep.say(say_creep(way.creep))
        self._show_events(way)

    def strips_of(self, way: OnTheWay) -> list[Strip]:
        """What was written and, where a meter reads the same, what it says."""
        job = self._in_hand.job
        state = job.power.state if job is not None else None
        if job is None or state is None or way.step is None:
            return []
        reads, strips = job.power.since(state), []
        live = self._meters.states() if self._meters.job == job.id else {}
        for name in dict.fromkeys((*way.watched, *live)):
            written = tuple(((e.at - state.at).total_seconds(), e.body.reading) for e in reads if e.body.name == name)
            if name not in live:
                strips.append(Strip(way.watched[name], written))
                continue
            values = self._meters.recent(name)
            if live[name].value is None:
                strips.append(
                    Strip(
                        Watched(name, "unknown", Finding("watch.fault", {"name": name, "fault": live[name].fault})),
                        (),
                    )
                )
            elif values:
                strips.append(Strip(judge(way.step, name, values[-1][1], values[-1][0]), values))
            else:
                strips.append(Strip(Watched(name, "unknown", Finding("watch.unread here", {"name": name})), ()))
        return strips

    def _show_live(self) -> None:
        """New readings from meters: the strips alone are drawn anew."""
        way = self.way() if self.isVisible() else None
        if way is not None and way.step is not None:
            self.strips.show_strips(way.step, self.strips_of(way), way.since_s)

    def _cross(self, watched: Watched) -> None:
        """A meter's reading lies beyond its cut line: it is written at once and raises the alarm, whichever job is in hand."""
        job = self._in_hand.job
        beyond = max((v for _, v in self._meters.recent(watched.name)), key=abs, default=0.0)
        self._writer.write_for(self._meters.job, power_commands.capture_rail(watched.name, beyond))
        if job is not None and self._meters.job == job.id:
            self.show_job()
            return
        QApplication.beep()
        self._voice.warn(f"The job that was left under power: {say_watched(watched)}")
        self._speech.say("Plug out.")

    def _show_events(self, way: OnTheWay) -> None:
        shown = tuple((e.words, e.state) for e in way.events)
        if shown == self._shown_events:
            return
        self._shown_events = shown
        empty(self._flow)
        self.events = {}
        for event in way.events:
            words = {"seen": "seen", "due": "about now", "late": "late", "to come": f"at {say_seconds(event.at_s)}"}[
                event.state
            ]
            made = button(f"{event.words} · {words}", f"Press when it happens: {event.words}", name="choice")
            made.setCheckable(True)
            made.setChecked(event.state == "seen")
            made.clicked.connect(lambda _=False, text=event.words: self._writer.do(power_commands.see_event(text)))
            self._flow.addWidget(made)
            made.show()
            self.events[event.words] = made

    def _show_alarm(self, way: OnTheWay) -> None:
        cut, job = way.cut, self._in_hand.job
        self.alarm.setText("Plug out" if cut is not None else "")
        self.alarm.setVisible(cut is not None)
        self.alarm_words.setText(say_watched(cut) if cut is not None else "")
        self.alarm_words.setVisible(cut is not None)
        if cut is None or job is None:
            self._told = ("", 0)
            return
        QApplication.beep()  # at every look, until the plug is out
        told = (job.id, job.power.state.number if job.power.state else 0)
        if told != self._told:
            self._told = told
            self._voice.warn(say_watched(cut))
            self._speech.say("Plug out.")

    def choose(self, title: str) -> None:
        """Take a state in hand."""
        self._chosen = title
        self.show_job()

    def next_step(self) -> PlanStep | None:
        """The state that comes after the one it is in, None after the last."""
        plan, way = self.plan(), self.way()
        if plan is None or way is None:
            return None
        titles = [s.title for s in plan.steps]
        at = titles.index(way.step.title) + 1 if way.step is not None else 0
        return plan.steps[at] if at < len(titles) else None

    def asks(self, step: PlanStep | None) -> str:
        """The caution before a state that was not read yet, or nothing."""
        job = self._in_hand.job
        is_new = step is not None and job is not None and step.caution not in job.power.understood
        return step.caution if step is not None and is_new else ""

    def press(self) -> None:
        """The pedal: where the alarm stands the plug is out; else a caution was read, or the next state is begun."""
        way, step = self.way(), self.next_step()
        if way is not None and way.cut is not None:
            self.plug_out()
        elif caution := self.asks(step):
            self._writer.do(power_commands.understand_caution(caution))
        elif step is not None:
            self._chosen = step.title
            self._begin()

    def _understand(self) -> None:
        step = self.step()
        if step is not None:
            self._writer.do(power_commands.understand_caution(step.caution))

    def _begin(self) -> None:
        job, step = self._in_hand.job, self.step()
        plan = self.plan()
        if job is None or step is None or plan is None:
            return
        still = say_not_yet(open_items(job, self._in_hand.parts()))
        if still and step.line_volts:
            self._voice.refuse(still)
            self.mayAsked.emit()
            return
        held, reason = say_may_begin(may_begin(job, plan, step)), self.reason.text().strip()
        if held and (not reason or (step.caution not in job.power.understood and step.caution)):
            self._voice.refuse(held)
            self.show_job()
            self.reason.setFocus()
            return
        if self._writer.do(power_commands.begin_state(step.title, step.line_volts, reason if held else "")):
            self._chosen = ""
            self.reason.clear()
            self._meters.set_line(step.line_volts)
            self.read.setFocus()

    def plug_out(self) -> None:
        """The plug is out: written, and the simulated bench with it."""
        self._meters.set_line(0.0)
        if self._writer.do(power_commands.plug_out()):
            self.afterAsked.emit()

    def _read(self) -> None:
        text, way = self.read.text().strip(), self.way()
        context = JotContext(events=tuple(e.words for e in way.events) if way else ())
        try:
            jot = understand_at("power", text, context) or understand_at("power", f"rail {text}")
        except CandorError as error:
            self._voice.refuse(error)
            return
        if jot is None:
            self._voice.refuse("Give a rail and its voltage, or what happened. Examples: b1 287, watts 31, click")
        elif self._writer.jot(jot):
            self.read.clear()

    def explain(self, because: Because) -> None:
        """Say what the readings mean in this state."""
        way, step = self.way(), self.step()
        because.show_whole(None)
        if way is None or step is None:
            because.show_words("Powering up", ["Open a job first."])
            return
        if way.cut is not None:
            because.show_words(
                "Plug out", [say_watched(way.cut), "The plug, not the switch. Then: after."], "hazard", "brick"
            )
            return
        words = [say_watched(w) for w in way.watched.values()]
        late = [
            f"{e.words} is late: its absence is a fault, its presence no fright."
            for e in way.events
            if e.state == "late"
        ]
        intro = [step.then.capitalize()] if step.then else []
        because.show_words(step.title.capitalize(), [*(words or ["Nothing is said of this state."]), *late, *intro])
