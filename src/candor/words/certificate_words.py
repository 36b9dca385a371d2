"""What every certificate says of its figures, of its references and of safety."""

from __future__ import annotations

from collections.abc import Mapping

from candor.notebook.entries.calibrate_entries import ReferenceFrom

COVERAGE_WORDS = (
    "The expanded uncertainty U is the standard uncertainty multiplied by the coverage factor k given beside it, from the "
    "convolution of all contributions, for a coverage probability of 95.45 % (JCGM 100:2008; JCGM 101:2008). It covers "
    "the reading of the needle and the reference at the time; it says nothing of later drift. TUR is limit / U. "
    "Where a point was read rising and falling, needle and reference are the means of both and the error is the worse. "
    "Errors of − ranges are of magnitude: positive means the needle read too far from zero."
)
CAME: Mapping[ReferenceFrom, str] = {
    "typed": "read and typed",
    "captured": "captured over a link",
    "confirmed": "confirmed by a press of their own",
    "as set": "of a source or fixed part, as set",
    "": "of entries that did not keep how",
}
ADVICE = (
    "This certificate states what was measured. It does not certify electrical safety; local codes and licensed "
    "practice come first."
)
