"""Samples of an edge as the demo's oscilloscope shows it, made up: a slow one with a little overshoot, and noise."""

from __future__ import annotations

import numpy as np

RISE_S, STEP_V, NOISE_V = 38.0e-9, 0.3, 1.2e-3
EVERY_S, COUNT = 0.5e-9, 2400


def edge_samples() -> str:
    """Return the samples as a table: a time in seconds and a channel in volts, the same every time."""
    random = np.random.default_rng(40257)
    at = (np.arange(COUNT) - 400) * EVERY_S
    bandwidth = 0.35 / RISE_S
    damping, pulsation = 0.72, 2 * np.pi * bandwidth * 1.02
    own = pulsation * np.sqrt(1 - damping**2)
    later = np.maximum(at, 0.0)
    ring = np.exp(-damping * pulsation * later) * (
        np.cos(own * later) + damping / np.sqrt(1 - damping**2) * np.sin(own * later)
    )
    volts = STEP_V * np.where(at > 0, 1 - ring, 0.0) - 0.15 + random.normal(0, NOISE_V, COUNT)
    rows = (f"{t:.4e},{v:.5f}" for t, v in zip(at, volts, strict=True))
    return "\n".join(("time (s),plates (V)", *rows)) + "\n"
