"""How long a hand takes over what it types and clicks: the keystroke-level model of Card, Moran and Newell (Comm. ACM 23, 1980,
396; times from memory): a letter 0.28 s for an ordinary typist, a figure or a sign 0.5 s, pointing 1.1 s, a click 0.2 s, from the
keys to the mouse or back 0.4 s, and 1.35 s of thought before each thing that is typed or pointed at.
"""

from __future__ import annotations

import re
from dataclasses import dataclass, field

LETTER_S, SIGN_S, POINT_S, CLICK_S, HOME_S, THOUGHT_S = 0.28, 0.5, 1.1, 0.2, 0.4, 1.35
_TOKEN = re.compile(r"\*\*(?P<key>[^*]+)\*\*|\*(?P<name>[^*]+)\*|`(?P<typed>[^`]+)`")


@dataclass
class Effort:
    """What was typed and clicked so far."""

    seconds: float = 0.0
    keys: int = 0
    clicks: int = 0
    _at_mouse: bool = field(default=False, repr=False)

    def of(self, step: str) -> None:
        """Count a step as the manual writes it: **keys**, *a place that is clicked*, `what is typed`."""
        for token in _TOKEN.finditer(step):
            mouse = token["name"] is not None
            self.seconds += HOME_S * (mouse != self._at_mouse)
            self._at_mouse = mouse
            if mouse:
                self.clicks += 1
                self.seconds += THOUGHT_S + POINT_S + CLICK_S
            elif token["key"]:  # Tab and Enter end what was thought of already
                pressed = token["key"].count("+") + 1
                self.keys += pressed
                self.seconds += SIGN_S * pressed + THOUGHT_S * (token["key"] not in ("Tab", "Enter", "Space"))
            else:
                self.keys += len(token["typed"])
                self.seconds += THOUGHT_S + sum(
                    LETTER_S if c.isalpha() or c == " " else SIGN_S for c in token["typed"]
                )
