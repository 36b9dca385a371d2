"""How warm a job's transformer became, winding by winding, from what was read cold and hot."""

from __future__ import annotations

from collections.abc import Mapping

from candor.core.power.heat_run import WindingRise, winding_rise
from candor.notebook.work.job import Job


def rises_of(job: Job) -> Mapping[str, WindingRise]:
    """Return the rise of each winding that was read cold and hot, each with the room's temperature."""
    found = {}
    for name, hot in job.power.hot_windings.items():
        cold = job.power.windings.get(name)
        if cold is None or cold.body.ohms is None or hot.body.ohms is None or not cold.body.ohms:
            continue
        if cold.body.celsius is not None and hot.body.celsius is not None:
            found[name] = winding_rise(cold.body.ohms, cold.body.celsius, hot.body.ohms, hot.body.celsius)
    return found
