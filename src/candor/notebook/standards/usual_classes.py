"""What standards of a class usually hold, to start from until a meter's own handbook or certificate is at hand.

Every figure is common practice, no source (from memory): the wide end of what handbooks of the class print for a year at
18 to 28 °C. A standard that rests on them is marked as typical, says so on page one, and counts as 4:1 for nothing.
"""

from __future__ import annotations

from candor.core.late_dataclass import dataclass
from candor.core.reference.reference import Role


@dataclass(frozen=True)
class UsualClass:
    """A class of standards: what it is called, what it is, and its lines as they are typed."""

    name: str
    role: Role
    lines: str


USUAL_CLASSES = (
    UsualClass(
        "3½ digit handheld meter",
        "meter",
        """V d.c., loads 10M, 2000 counts
200.0 mV: 1 % + 5 digits
2.000 V: 1 % + 5 digits
20.00 V: 1 % + 5 digits
200.0 V: 1 % + 5 digits
600 V: 1.5 % + 5 digits, 1 V
V a.c., average responding, loads 10M 100p, 2000 counts
40 Hz to 400 Hz, 2.000 V: 1.5 % + 10 digits
40 Hz to 400 Hz, 20.00 V: 1.5 % + 10 digits
40 Hz to 400 Hz, 200.0 V: 1.5 % + 10 digits
40 Hz to 400 Hz, 600 V: 2 % + 10 digits, 1 V
A d.c., 2000 counts
20.00 mA: 2 % + 5 digits
200.0 mA: 2 % + 5 digits
10.00 A: 3 % + 10 digits
ohm, 2000 counts
200.0 ohm: 1.2 % + 8 digits
2.000 kohm: 1.2 % + 5 digits
20.00 kohm: 1.2 % + 5 digits
200.0 kohm: 1.2 % + 5 digits
2.000 Mohm: 1.5 % + 5 digits
20.00 Mohm: 3 % + 10 digits""",
    ),
    UsualClass(
        "4½ digit bench meter",
        "meter",
        """V d.c., loads 10M, 20000 counts
200 mV: 0.1 % + 5 digits
2 V: 0.1 % + 5 digits
20 V: 0.1 % + 5 digits
200 V: 0.1 % + 5 digits
1000 V: 0.15 % + 5 digits, 100 mV
V a.c., rms responding, loads 1M 150p, 20000 counts
45 Hz to 1 kHz, 2 V: 0.8 % + 20 digits
45 Hz to 1 kHz, 20 V: 0.8 % + 20 digits
45 Hz to 1 kHz, 200 V: 0.8 % + 20 digits
45 Hz to 1 kHz, 750 V: 1 % + 20 digits, 100 mV
A d.c., 20000 counts
2 mA: 0.5 % + 10 digits
20 mA: 0.5 % + 10 digits
200 mA: 0.5 % + 10 digits
10 A: 1 % + 10 digits, 1 mA
ohm, 20000 counts
200 ohm: 0.2 % + 10 digits
2 kohm: 0.2 % + 5 digits
20 kohm: 0.2 % + 5 digits
200 kohm: 0.2 % + 5 digits
2 Mohm: 0.3 % + 5 digits
20 Mohm: 1 % + 10 digits""",
    ),
    UsualClass(
        "5½ digit bench meter",
        "meter",
        """V d.c., loads 10M, 200000 counts
200 mV: 0.02 % + 8 digits
2 V: 0.02 % + 6 digits
20 V: 0.02 % + 6 digits
200 V: 0.02 % + 6 digits
1000 V: 0.025 % + 6 digits, 10 mV
V a.c., rms responding, loads 1M 150p
45 Hz to 10 kHz, 200 mV: 0.4 % + 0.1 % of range
45 Hz to 10 kHz, 2 V: 0.4 % + 0.1 % of range
45 Hz to 10 kHz, 20 V: 0.4 % + 0.1 % of range
45 Hz to 10 kHz, 200 V: 0.4 % + 0.1 % of range
45 Hz to 10 kHz, 750 V: 0.5 % + 0.1 % of range
A d.c., 200000 counts
2 mA: 0.1 % + 20 digits
20 mA: 0.1 % + 20 digits
200 mA: 0.1 % + 20 digits
2 A: 0.3 % + 20 digits
ohm, 200000 counts
200 ohm: 0.04 % + 20 digits
2 kohm: 0.03 % + 8 digits
20 kohm: 0.03 % + 8 digits
200 kohm: 0.03 % + 8 digits
2 Mohm: 0.05 % + 8 digits
20 Mohm: 0.3 % + 10 digits""",
    ),
    UsualClass("resistance decade box", "box", "ohm, steps 1\nto 1 Mohm: 1 % + 0.1 ohm\nto 10 Mohm: 2 %"),
    UsualClass("capacitance set", "box", "F, steps 100p\nto 10 nF: 3 % + 20 pF\nto 10 uF: 3 %"),
    UsualClass("counter with its own crystal", "meter", "Hz, loads 1M 40p\nto 100 MHz: 20 ppm + 1 Hz"),
    UsualClass("counter on a disciplined oscillator", "meter", "Hz, loads 1M 40p\nto 100 MHz: 0.01 ppm + 1 Hz"),
)
