"""Every command by its name: what the window, the command line and, one day, a server can ask for."""

from __future__ import annotations

from collections.abc import Callable, Mapping

from candor.sitting.command import Command
from candor.sitting.commands import arrive, calibrate, live, parts, power, release, shop, soak, stay, trace

TOPICS = {
    "stay": stay, "arrive": arrive, "parts": parts, "power": power, "trace": trace, "calibrate": calibrate, "soak": soak,
    "release": release, "shop": shop, "live": live,
}  # fmt: skip
COMMANDS: Mapping[str, Callable[..., Command]] = {
    f"{topic} {made.__name__.replace('_', ' ')}": made for topic, module in TOPICS.items() for made in module.COMMANDS
}
