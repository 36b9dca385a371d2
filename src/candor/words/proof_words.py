"""The eight words by which a paper proves the notebook that it was printed from, in words."""

from __future__ import annotations

PROOF = "Proof:"


def say_proof(head: str) -> str:
    """Say the eight words of a job as it was when the paper was printed, and what they are for."""
    return (
        f"{PROOF} {head}. These eight words stand for every entry of the job as it was when this was made; “candor check” "
        "with them finds whether the notebook still has them."
    )
