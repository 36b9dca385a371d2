"""The table of verbs: all that can be said in a line, one module for each stop."""

from candor.core.jot.rows.arrive_rows import ARRIVE
from candor.core.jot.rows.board_rows import BOARD
from candor.core.jot.rows.calibrate_rows import CALIBRATE
from candor.core.jot.rows.power_rows import POWER
from candor.core.jot.rows.release_rows import RELEASE
from candor.core.jot.rows.soak_rows import SOAK
from candor.core.jot.rows.stay_rows import STAY
from candor.core.jot.rows.trace_rows import TRACE
from candor.core.jot.verb import Verb

VERBS: tuple[Verb, ...] = (*STAY, *ARRIVE, *BOARD, *POWER, *TRACE, *CALIBRATE, *SOAK, *RELEASE)
