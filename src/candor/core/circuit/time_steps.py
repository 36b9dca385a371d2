"""A network in time: rectifiers in straight pieces, everything between two of their corners solved in blocks.

The elements give E x' + A x = s(t), with x the voltages of the nodes and the currents of held voltages and of inductors. A step
is the second-order backward formula x' = (3 x_n - 4 x_(n-1) + x_(n-2)) / 2h (C. W. Gear, Numerical initial value problems in
ordinary differential equations, 1971, table 11.1), which does not ring where a charging is shorter than a step. While every
rectifier stays on its piece the network is linear, so a step is one matrix, and many steps are its powers, kept for every
combination of pieces that comes up: the state is what capacitors and inductors hold now and a step before, and the sines.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping, Sequence

import numpy as np
from numpy.typing import NDArray

from candor.core.circuit.in_time import refuse_islands, refuse_source_loops, written_down
from candor.core.circuit.netlist import Netlist
from candor.core.errors import CancelledError, RangeError
from candor.core.late_dataclass import dataclass
from candor.core.worded import worded

Array = NDArray[np.float64]
BLOCK = 32  # steps that are looked ahead at once
STEPS_A_CYCLE = 200
CHUNK = 64  # cycles that are summed up at once
MOST_TURNS = 600  # of rectifiers within one step before it is given up
SLACK_V = 1e-9  # by which a corner may be passed, so that rounding does not turn it
SETTLING_CYCLES = 60
TEN = 10
SETTLED = 1e-4
NO_SINE_HERTZ = 50.0  # of a "cycle" where nothing swings


@dataclass(frozen=True)
class _Pieces:
    """One step, and a block of them, for one combination of pieces."""

    states: Array  # (BLOCK, state, state): the state after 1, 2, ... steps
    outputs: Array  # (BLOCK, nodes, state)
    rectified: Array  # (BLOCK * diodes, state): the voltages across the rectifiers
    low: Array  # of those voltages, (BLOCK * diodes,)
    high: Array
    siemens: Array
    amperes: Array
    impedances: tuple[float, ...]  # of the network at each rectifier, itself included, ohm


@dataclass(frozen=True)
class Envelope:
    """Every node cycle by cycle; arrays of shape (cycles, nodes), V, and the end of each cycle, s."""

    nodes: tuple[str, ...]
    at_s: Array
    low: Array
    mean: Array
    high: Array
    cycle_s: float
    diodes: tuple[str, ...]
    peaks: Array  # of the current of each rectifier in each cycle, A
    settled: bool

    def column(self, node: str) -> int:
        """Return the column of a node; raises KeyError where it is not in the network."""
        try:
            return self.nodes.index(node.lower())
        except ValueError:
            raise KeyError(node) from None


class March:
    """A network that is let run from rest, everything uncharged.

    Raises
    ------
    RangeError
        Where a part of it is joined to nothing, or sources stand in a loop.
    """

    def __init__(self, netlist: Netlist, steps_a_cycle: int = STEPS_A_CYCLE) -> None:
        refuse_islands(netlist)
        refuse_source_loops(netlist.elements)
        self.nodes = netlist.nodes[1:]
        built = written_down(netlist)
        self._built, self._diodes = built, tuple(built.diodes)
        hertz = sorted({h for _, h in built.sines})
        self.cycle_s = 1 / (hertz[0] if hertz else NO_SINE_HERTZ)
        self.step_s = self.cycle_s / steps_a_cycle
        self._steps_a_cycle = steps_a_cycle
        self._hertz = tuple(hertz)
        self._known: dict[tuple[tuple[int, ...], int], _Pieces] = {}
        self._begins = sorted({s for _, s in built.late})
        self._begin_steps = [math.ceil(s / self.step_s) for s in self._begins]
        self._phase = 0
        count = len(built.storing)
        self.state = np.zeros(2 * count + 2 * len(hertz) + 1)
        for index, each in enumerate(hertz):  # the first step ends a step after time 0
            turn = 2 * math.pi * each * self.step_s
            self.state[2 * count + 2 * index : 2 * count + 2 * index + 2] = math.sin(turn), math.cos(turn)
        self.state[-1] = 1.0
        self.steps = 0
        self._pieces = tuple(0 for _ in self._diodes)

    @property
    def last_begin_s(self) -> float:
        """When the last load begins to draw, s."""
        return self._begins[-1] if self._begins else 0.0

    def take_over(self, before: March) -> None:
        """Go on where another network of the same shape stands: what is stored is carried over, and where the sines are.

        Raises
        ------
        RangeError
            Where it is of another shape.
        """
        if before._built.names != self._built.names or before._hertz != self._hertz:
            raise RangeError(worded("circuit.only_a_network_of_the_same"))
        self.state, self.steps = before.state, before.steps
        if len(before._diodes) == len(self._diodes):
            self._pieces = before._pieces

    def _drive(self, phase: int) -> Array:
        begun = set(self._begins[:phase])
        return self._built.drive + sum((v for v, s in self._built.late if s in begun), np.zeros(self._built.size))

    def _linear(self, pieces: tuple[int, ...], phase: int) -> _Pieces:
        found = self._known.get((pieces, phase))
        if found is None:
            found = self._known[pieces, phase] = self._compiled(pieces, phase)
        return found

    def _compiled(self, pieces: tuple[int, ...], phase: int) -> _Pieces:
        built, h, count = self._built, self.step_s, len(self._built.storing)
        matrix, drive = built.conductances.copy(), self._drive(phase)
        for what, where, size in built.storing:
            matrix += 1.5 * size / h * np.outer(where, what)
        for diode, piece in zip(self._diodes, pieces, strict=True):
            matrix += diode.curve.siemens[piece] * np.outer(diode.row, diode.row)
            drive = drive - diode.curve.amperes[piece] * diode.row
        sources = np.zeros((built.size, len(self.state)))
        for index, (_, where, size) in enumerate(built.storing):
            sources[:, index] = 2 * size / h * where
            sources[:, count + index] = -0.5 * size / h * where
        for unit, hertz in built.sines:
            sources[:, 2 * count + 2 * self._hertz.index(hertz)] += unit
        sources[:, -1] = drive
        solved: Array = np.asarray(np.linalg.solve(matrix, sources), np.float64)
        step = np.zeros((len(self.state), len(self.state)))
        for index, (what, _, _) in enumerate(built.storing):
            step[index] = what @ solved
            step[count + index, index] = 1.0
        for index, hertz in enumerate(self._hertz):
            turn, at = 2 * math.pi * hertz * h, 2 * count + 2 * index
            step[at : at + 2, at : at + 2] = ((math.cos(turn), math.sin(turn)), (-math.sin(turn), math.cos(turn)))
        step[-1, -1] = 1.0
        rows = np.array([d.row for d in self._diodes]).reshape(-1, built.size)
        outputs, rectified, states = solved[None, : len(self.nodes)], (rows @ solved)[None], step[None]
        while len(states) < BLOCK:
            power = states[-1]
            outputs = np.concatenate((outputs, outputs @ power))
            rectified = np.concatenate((rectified, rectified @ power))
            states = np.concatenate((states, states @ power))
        curves = [(d.curve, p) for d, p in zip(self._diodes, pieces, strict=True)]
        return _Pieces(
            states=states,
            outputs=np.asarray(outputs, np.float64),
            rectified=np.ascontiguousarray(rectified.reshape(-1, len(self.state))),
            low=np.tile([c.lows[p] - SLACK_V for c, p in curves], BLOCK),
            high=np.tile([(*c.lows, math.inf)[p + 1] + SLACK_V for c, p in curves], BLOCK),
            siemens=np.array([c.siemens[p] for c, p in curves]),
            amperes=np.array([c.amperes[p] for c, p in curves]),
            impedances=tuple(
                float(row @ each) for row, each in zip(rows, np.linalg.solve(matrix, rows.T).T, strict=True)
            ),
        )

    def run(
        self,
        most_s: float,
        until_settled: bool = True,
        should_stop: Callable[[], bool] = lambda: False,
    ) -> Envelope:
        """Let it run from where it is and return every cycle: to `most_s`, or until nothing moves any more.

        Raises
        ------
        CancelledError
            When `should_stop` answers True between two chunks of cycles.
        RangeError
            Where the rectifiers find no state.
        """
        cycles = max(math.ceil(most_s / self.cycle_s - 1e-9), 1)
        made: list[tuple[Array, Array, Array, Array]] = []
        settled = False
        while cycles > 0 and not settled:
            if should_stop():
                raise CancelledError(worded("circuit.calculating_the_supply_was_stopped"))
            count = min(CHUNK, cycles)
            made.append(self._cycles(count))
            cycles -= count
            settled = self._has_settled(made)
            if settled and until_settled:
                break
            settled = False if cycles > 0 and not until_settled else settled
        low, mean, high, peaks = (np.concatenate(parts) for parts in zip(*made, strict=True))
        done = self.steps // self._steps_a_cycle
        return Envelope(
            nodes=self.nodes,
            at_s=np.asarray(self.cycle_s * (np.arange(len(low)) + 1 + done - len(low)), np.float64),
            low=low,
            mean=mean,
            high=high,
            cycle_s=self.cycle_s,
            diodes=tuple(d.name for d in self._diodes),
            peaks=peaks,
            settled=self._has_settled(made),
        )

    def _has_settled(self, made: Sequence[tuple[Array, ...]]) -> bool:
        """Whether no node's mean moved by more than a ten-thousandth over the last third of the time since the last begin."""
        means = np.concatenate([part[1] for part in made])
        since = len(means) - math.ceil(self.last_begin_s / self.cycle_s)
        if since < SETTLING_CYCLES:
            return False
        last, before = means[-TEN:].mean(0), means[-since // 3 - TEN : -since // 3].mean(0)
        swing = np.maximum(np.abs(means).max(0), 1e-3)
        return bool((np.abs(last - before) <= SETTLED * swing).all())

    def _cycles(self, count: int) -> tuple[Array, Array, Array, Array]:
        """Run some cycles; low, mean, high of the nodes and the peak currents, each (cycles, ...)."""
        steps, diodes = count * self._steps_a_cycle, len(self._diodes)
        stretches: dict[tuple[tuple[int, ...], int], list[tuple[int, int, Array]]] = {}
        done = 0
        while done < steps:
            room = min(BLOCK, steps - done, self._until_next_begin())
            for _ in range(MOST_TURNS):
                pieces = self._linear(self._pieces, self._phase)
                across = pieces.rectified[: room * diodes] @ self.state
                left = (across < pieces.low[: len(across)]) | (across > pieces.high[: len(across)])
                first = int(left.argmax()) if diodes else 0
                ahead = first // diodes if diodes and left[first] else room
                if ahead:
                    break
                self._turn(pieces, across[:diodes])
            else:
                names = ", ".join(d.name for d in self._diodes)
                raise RangeError(worded("circuit.the_rectifiers_find_no_state_in", names=names), value=names)
            stretches.setdefault((self._pieces, self._phase), []).append((done, ahead, self.state))
            self.state = pieces.states[ahead - 1] @ self.state
            self.steps += ahead
            done += ahead
        return self._summed(stretches, count)

    def _summed(
        self, stretches: Mapping[tuple[tuple[int, ...], int], Sequence[tuple[int, int, Array]]], count: int
    ) -> tuple[Array, Array, Array, Array]:
        """Fill in what nodes and rectifiers did in every stretch on the same pieces, and sum it up by cycles."""
        steps, diodes = count * self._steps_a_cycle, len(self._diodes)
        volts, currents = np.empty((steps, len(self.nodes))), np.empty((steps, diodes))
        for key, parts in stretches.items():
            pieces, states = self._known[key], np.array([state for _, _, state in parts]).T
            outputs = pieces.outputs @ states
            across = (pieces.rectified @ states).reshape(BLOCK, diodes, len(parts))
            for index, (begin, ahead, _) in enumerate(parts):
                volts[begin : begin + ahead] = outputs[:ahead, :, index]
                currents[begin : begin + ahead] = pieces.siemens * across[:ahead, :, index] + pieces.amperes
        by_cycle = volts.reshape(count, self._steps_a_cycle, -1)
        peaks = currents.reshape(count, self._steps_a_cycle, diodes).max(1)
        return by_cycle.min(1), by_cycle.mean(1), by_cycle.max(1), peaks

    def _until_next_begin(self) -> int:
        """Begin what begins at the next step, and return how many steps there are until the next begins."""
        while self._phase < len(self._begin_steps) and self._begin_steps[self._phase] <= self.steps + 1:
            self._phase += 1
        return self._begin_steps[self._phase] - self.steps - 1 if self._phase < len(self._begin_steps) else BLOCK

    def _turn(self, pieces: _Pieces, across: Array) -> None:
        """Put the rectifier that is farthest off its piece on that on which it alone would be at rest (after J. Katzenelson, Bell
        System Tech. J. 44, 1965): with the network's impedance Z there, v + Z (i(v) - g v - a) = v_found.
        """
        off = np.maximum(across - pieces.high[: len(across)], pieces.low[: len(across)] - across)
        which = int(off.argmax())
        found, curve, piece = float(across[which]), self._diodes[which].curve, self._pieces[which]
        g, a, z = curve.siemens[piece], curve.amperes[piece], pieces.impedances[which]

        def is_below(corner: int) -> bool:
            low = curve.lows[corner]
            return low + z * (curve.siemens[corner] * low + curve.amperes[corner] - g * low - a) <= found

        if found > pieces.high[which]:
            piece += 1
            while piece + 1 < len(curve.lows) and is_below(piece + 1):
                piece += 1
        else:
            piece -= 1
            while piece > 0 and not is_below(piece):
                piece -= 1
        self._pieces = (*self._pieces[:which], piece, *self._pieces[which + 1 :])
