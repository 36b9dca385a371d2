"""A component in words."""

import pytest

from candor.core.parts.component import Component


@pytest.mark.parametrize(
    ("component", "text"),
    [
        (Component(kind="capacitor", value=47e-9, tolerance=0.1, make="film", volts=630), "47 nF 10 % 630 V film"),
        (Component(kind="capacitor", value=22e-6, make="electrolytic", volts=500, celsius=105), "22 µF 500 V electrolytic 105 °C"),
        (Component(kind="capacitor", value=4.7e-9, safety="Y2"), "4.7 nF class Y2"),
        (Component(kind="resistor", value=330e3, tolerance=0.01, make="metal film", watts=0.5), "330 kΩ 1 % 0.5 W metal film"),
    ],
)  # fmt: skip
def test_what_is_known_is_said_and_no_more(component, text):
    assert component.text == text
