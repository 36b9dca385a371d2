"""What each stop and each room is for, in plain words, and the keys that work there: what F1 shows."""

from __future__ import annotations

from collections.abc import Iterator, Mapping

from candor.core.jot.rows import VERBS
from candor.core.jot.rows.stay_rows import STAY
from candor.core.late_dataclass import dataclass

FIRST = 2  # examples of a line that are shown where no words are looked for
Keys = tuple[tuple[str, str], ...]


@dataclass(frozen=True)
class Place:
    """A stop or a room: title, what it is for, what to do first, its keys; the room's name where that is another."""

    title: str
    purpose: str
    first: str
    keys: Keys = ()
    room: str = ""

    @property
    def key(self) -> str:
        """Its name in the window."""
        return self.room or self.title.casefold()


@dataclass(frozen=True)
class HelpLine:
    """A line that can be typed, with what becomes of it; or a key, with what it does."""

    says: str
    does: str
    is_key: bool = False


EVERYWHERE: Keys = (
    ("F1", "help for where you are"),
    ("Shift+F1", "the manual"),
    ("Ctrl+K", "find anything by its words"),
    ("Ctrl+,", "settings"),
    ("Ctrl+J", "to the line below"),
    ("F2", "the line in fields, each named"),
    ("Ctrl+L", "to the list of jobs"),
    ("Ctrl+N", "a new job"),
    ("Ctrl+1 to Ctrl+7", "the stops, from Arrive to Release"),
    ("Alt+0 to Alt+9", "the rooms, Today first"),
    ("Ctrl+Z", "take back what was done last"),
    ("Ctrl+Shift+Z", "do it again"),
    ("Ctrl+C", "copy: the cells of a table, the picture of a chart that the keyboard is at"),
    ("Ctrl+Q", "close the window"),
    ("F11", "the step in hand, to be read from across the bench"),
    ("Ctrl++, Ctrl+-, Ctrl+0", "larger text, smaller, as designed"),
    ("Ctrl+=", "larger text"),
    ("F10", "the menus"),
    ("Esc", "leave a field, or what was begun"),
    ("Tab", "to the next field"),
)
_PLACES = (
    Place(
        "Arrive",
        "Write down what came in, before anything is changed: what it is, what its owner says, what is "
        "broken, missing or dangerous. Photos belong to what they show.",
        "Walk round it, zone by zone, and mark each thing seen or not. A hazard bars power until it is settled.",
        (
            ("Ctrl+H", "it is a hazard"),
            ("Ctrl+F", "it must be put right"),
            ("Del", "strike what is chosen"),
            ("Ctrl+Shift+V", "paste a picture"),
            ("F7, F8", "as it should be; not as it should be"),
        ),
    ),
    Place(
        "Parts",
        "Decide of every part what its values say: keep, watch or replace, each with its reason. What was not"
        " measured cannot be told.",
        "Measure the sample that is marked. Then the parts of which it cannot be told.",
        (
            ("Alt+O", "to the order"),
            ("Ctrl+Shift+V", "paste a table of parts"),
            ("Alt+M, Alt+D, Alt+P, Alt+T, Alt+A", "what is shown under the list"),
            ("Esc", "end the run on the tester"),
        ),
    ),
    Place(
        "Power",
        "Bring it up for the first time so that nothing is lost: what must hold before, the plan with its "
        "limits, and each state as it is reached. Live parts can kill: local codes and licensed practice come"
        " first.",
        "Settle every line of Before power. Then go through the plan state by state.",
        (("F7, F8", "as it should be; not as it should be"), ("Up, Down", "along the list, from its field too")),
    ),
    Place(
        "Trace",
        "Find what is wrong by what nodes read against what they should: Candor puts what you read into the "
        "circuit and says what would explain it, how likely that is, and what to measure next.",
        "Read the nodes from the rail to the chassis. The first that is off is where to look.",
        (("Ctrl+Return", "at Adjusters: set them together"),),
    ),
    Place(
        "Calibrate",
        "Read the instrument against a standard, point by point. Each point gets its error, its uncertainty "
        "and a verdict: passes, fails, or cannot tell, with the reason.",
        "Choose the standard. Apply the value, read, and write both: 10.2 ref 10.03. Without a pack, say "
        "first how a range is read.",
        (
            ("PgUp, PgDown", "a step back, a step on, wherever the keyboard is"),
            ("Space", "take the reading"),
            ("R", "read the point again"),
            ("Backspace", "put the needle back, or strike the last reading"),
            ("Left, Right", "move the needle by a tick, with Shift by half"),
            ("M", "the needle stands on the mark"),
            ("C", "the standard shows the value in the field"),
            ("Page Up, Page Down", "the step before, the next"),
            ("Ctrl+Shift+V", "paste a table of readings"),
        ),
    ),
    Place(
        "Soak",
        "See whether it stays where it was set: readings over hours, whether it has settled, and how far it "
        "may drift until it is read again.",
        "Write one reading now and then, or let a meter on a link do it.",
    ),
    Place(
        "Release",
        "Look over what is open, sign what the evidence supports, and print the papers. Nothing is certified "
        "that was not measured.",
        "Settle the list. Read page one of the certificate as its owner will.",
        (
            ("Ctrl+P", "print the certificate, its pages shown first; at Papers the paper in hand"),
            ("Ctrl+S", "save the certificate as PDF"),
            ("Ctrl+Shift+P", "save it as data"),
            ("Up, Down", "along the list of checks, from its field too"),
            ("F7, F8", "as it should be; not as it should be"),
        ),
    ),
    Place(
        "Today",
        "What to do when: the next deeds of every open job put into your hours, so that promises to owners are kept, with why each "
        "stands where it stands.",
        "Do what stands first. Drag a deed to put it at another hour; say in Settings when the shop is open.",
        (
            ("Left, Right", "at the strip of hours: the deed before, the next"),
            ("Return", "at the strip of hours: open the job at the stop of the deed"),
            ("Ctrl+P", "print the day's sheet, its pages shown first"),
        ),
        room="day",
    ),
    Place(
        "New job",
        "Put an instrument on the bench: by its name, by a pack, or from another notebook.",
        "Type maker, type and number, and press Enter.",
    ),
    Place(
        "Standards",
        "What you compare with: what each is good for, when it was checked, and what was read by it.",
        "Record the meter you trust most. Its handbook gives the lines.",
    ),
    Place(
        "Stock",
        "What is in the drawers, and the nearest value that pieces of it make together.",
        "Paste or open the table you keep already.",
    ),
    Place(
        "Order",
        "What jobs wait for, as one list to send.",
        "Look it over, then mark it as ordered.",
        (("Ctrl+P", "print it, its pages shown first"), ("Ctrl+S", "save it as PDF")),
    ),
    Place(
        "Packs",
        "What is known of each type of instrument: its face, procedure, parts and cautions.",
        "Choose one to see what it holds; work on it, begin one of your own, or make one of a job that has gathered enough.",
        (
            ("Alt+Left", "from the workshop back to the packs"),
            ("Ctrl+Z", "in the workshop: take back the last change of the text"),
        ),
    ),
    Place(
        "Entries",
        "Everything that was written in this job, in ink: nothing is erased, a strike stays readable.",
        "Type a number, or words to look for.",
        (("Del", "strike the entry chosen"),),
    ),
    Place(
        "Settings",
        "How Candor looks, your shop and its mains, the units you think in.",
        "Say your mains first: limits and plans follow.",
        room="look",
    ),
    Place(
        "Waveforms",
        "Samples that an oscilloscope wrote: levels, rise, overshoot and more, each with its uncertainty.",
        "Open a file. What cannot be told says why.",
        room="waveform",
    ),
    Place(
        "Tubes",
        "Tubes of the shop: tested in an order that hurts none, matched by the uncertainty of their difference.",
        "Record a tube, then its tests.",
    ),
    Place(
        "Notebook",
        "Whether this notebook is as it was written, whether a paper proves it, and its backups.",
        "Check it whole now and then, and put a second backup on another disk.",
    ),
    Place(
        "Manual",
        "A page for each task, from the first voltmeter to the label.",
        "Choose a page, or look for words in all of them.",
        (("Esc", "back to where you were"),),
    ),
    Place(
        "Print",
        "A paper as it will be printed, page by page at its own size.",
        "Look at the pages, then print them or save them as a file.",
        (
            ("Ctrl+P", "choose a printer, pages and copies"),
            ("Ctrl+S", "save it as PDF"),
            ("Esc", "back to where you were"),
        ),
    ),
    Place(
        "From a file",
        "What a table says, line by line as it is understood, before anything is written.",
        "Mend the cells that are marked, where they stand; write the others meanwhile.",
        (("Esc", "leave it; nothing more is written"),),
        room="from file",
    ),
)
PLACES: Mapping[str, Place] = {place.key: place for place in _PLACES}


def help_lines(place: str, sought: str = "") -> Iterator[HelpLine]:
    """Yield what can be typed at a place, its own lines first, then its keys; only what has all the words that are sought."""
    words = sought.casefold().split()
    own = [verb for verb in VERBS if verb.stop == place and verb not in STAY]
    anywhere = [verb for verb in VERBS if verb in STAY]
    others = [verb for verb in VERBS if verb not in own and verb not in anywhere] if words else []
    known = PLACES.get(place)
    shown = len if words else lambda _: FIRST
    lines = [
        HelpLine(line, verb.does)
        for verb in (*own, *anywhere, *others)
        for line in verb.examples[: shown(verb.examples)]
    ]
    lines += [HelpLine(key, does, is_key=True) for key, does in (*(known.keys if known else ()), *EVERYWHERE)]
    for line in lines:
        text = f"{line.says} {line.does}".casefold()
        if all(word in text for word in words):
            yield line
