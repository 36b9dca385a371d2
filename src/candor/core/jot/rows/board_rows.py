"""Lines about the parts: what is on the list, where its ends are joined, what was measured or decided."""

from __future__ import annotations

from candor.core.errors import ValueTextError
from candor.core.jot.board_line import EXPECTED, listed
from candor.core.jot.form import Said
from candor.core.jot.meaning import AliasJot, DecisionJot, JoinJot, LimitJot, ListedJot, PartJot
from candor.core.jot.part_line import find_ref, is_decided, is_remark, understand_decision, understand_part
from candor.core.jot.verb import Verb
from candor.core.worded import worded


def _listed(said: Said) -> ListedJot:
    return listed(said["ref"], said["rest"], said.context.parts)


def _joined(said: Said) -> JoinJot:
    ref, plus, minus = said["ref"], said["plus"], said["minus"]
    if ref not in said.context.parts:
        raise ValueTextError(worded("jot.is_not_in_this_job_s_parts", ref=ref, expected=EXPECTED), value=ref)
    if plus == minus:
        raise ValueTextError(worded("jot.both_ends_of_are_on_give", ref=ref, plus=plus), value=said.line)
    return JoinJot(ref, plus, minus, (f"{ref} joins", plus, minus))


def _alias(said: Said) -> AliasJot:
    return AliasJot(said["node"], said["other"], (f"node {said['node']}", f"is {said['other']}"))


def _measured(said: Said) -> PartJot | DecisionJot | LimitJot | None:
    if is_decided(said.line):
        return understand_decision(said.line, said.context.parts)
    ref, rest = find_ref(said.line, said.context.parts)
    return None if not ref or is_remark(rest) else understand_part(ref, rest, said.context.parts[ref])


BOARD = (
    Verb(
        "part",
        "parts",
        "a part for the list: value, ratings, make, what it does",
        forms=("part {ref:ref} {rest:text}",),
        examples=(EXPECTED, "part R3 330k 5% 1/2W comp"),
        means=_listed,
        fielded=(
            "part {ref:ref} {value:quantity} [{tolerance:percent}] [{volts:volts_only}] [{watts:watts_only}] "
            "[kind=paper|mica|film|electrolytic|ceramic|composition|carbon_film|wirewound|metal_film] [{role:text}]",
        ),
        titles={
            "ref": "designator",
            "value": "value",
            "tolerance": "tolerance",
            "volts": "rated volts",
            "watts": "rated watts",
            "kind": "made of",
            "role": "what it does",
        },
    ),
    Verb(
        "joins",
        "parts",
        "between which nodes a part is",
        forms=(
            "{ref:ref} joins|from|between|is_between {plus:node} and|to {minus:node}",
            "{ref:ref} joins|from|between|is_between {plus:node} {minus:node}",
        ),
        examples=("R24 joins grid and chassis",),
        means=_joined,
        titles={"ref": "part", "plus": "one node", "minus": "the other node"},
    ),
    Verb(
        "alias",
        "parts",
        "another name of a node",
        forms=("node {node:node} is|= {other:named}",),
        examples=("node grid is V2 pin 2",),
        means=_alias,
        titles={"node": "new name", "other": "node"},
    ),
    Verb(
        "measured",
        "parts",
        "what was measured on a part, or decided about it",
        forms=(
            "{ref:ref} [{said:text}]",
            "measured|tested {ref:ref} {said:text}",
            "keep|leave|replace|swap|exchange|change [the] {ref:ref} [because|as|since {said:text}]",
            "to_do|must|should|need_to|will|please keep|leave|replace|swap|exchange|change [the] {ref:ref} "
            "[because|as|since {said:text}]",
        ),
        examples=(
            "R24 366k cold 374k warm",
            "C4 8.8u esr 11",
            "C4 leak 310u @400V 5min",
            "C4 open",
            "C4 keep because it is new",
        ),
        means=_measured,
        fielded=(
            "{ref:ref} [{value:quantity} [cold]] [{warm:quantity} warm] [esr {esr:quantity}] "
            "[leak {leak:quantity} [@ {volts:volts_only} [{after:quantity}]]] [state=open|short|intermittent]",
            "{ref:ref} decision=keep|replace because {reason:text}",
        ),
        titles={
            "ref": "part",
            "value": "value",
            "warm": "value warm|374k",
            "esr": "ESR",
            "leak": "leakage",
            "volts": "at volts",
            "after": "after",
            "state": "or it is",
            "decision": "or decide",
            "reason": "because",
        },
    ),
)
