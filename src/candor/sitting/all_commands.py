"""Every command by its name: what the window, the command line and, one day, a server can ask for."""

from __future__ import annotations

from collections.abc import Callable, Mapping

from candor.sitting.command import Command
from candor.sitting.commands import (
    arrive_commands,
    calibrate_commands,
    live_commands,
    parts_commands,
    plan_commands,
    power_commands,
    release_commands,
    shop_commands,
    soak_commands,
    stay_commands,
    trace_commands,
)

TOPICS = {
    "stay": stay_commands,
    "plan": plan_commands,
    "arrive": arrive_commands,
    "parts": parts_commands,
    "power": power_commands,
    "trace": trace_commands,
    "calibrate": calibrate_commands,
    "soak": soak_commands,
    "release": release_commands,
    "shop": shop_commands,
    "live": live_commands,
}
COMMANDS: Mapping[str, Callable[..., Command]] = {
    f"{topic} {made.__name__.replace('_', ' ')}": made for topic, module in TOPICS.items() for made in module.COMMANDS
}
