"""The table of verbs: all that can be said in a line, one module for each stop."""

from candor.core.jot.rows.arrive import ARRIVE
from candor.core.jot.rows.board import BOARD
from candor.core.jot.rows.calibrate import CALIBRATE
from candor.core.jot.rows.power import POWER
from candor.core.jot.rows.release import RELEASE
from candor.core.jot.rows.soak import SOAK
from candor.core.jot.rows.stay import STAY
from candor.core.jot.rows.trace import TRACE
from candor.core.jot.verb import Verb

VERBS: tuple[Verb, ...] = (*STAY, *ARRIVE, *BOARD, *POWER, *TRACE, *CALIBRATE, *SOAK, *RELEASE)
