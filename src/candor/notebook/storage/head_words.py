"""The head of a job's chain as eight words, to be printed and read back: the first 88 bits of a digest, 11 bits a word.

The list is the English one of BIP-39, 2048 words that differ in their first four letters.
"""

from __future__ import annotations

import difflib
import re
from functools import lru_cache

from candor.core.errors import CandorError
from candor.core.worded import worded

COUNT = 8  # words
BITS = 11  # of each
DIGITS = COUNT * BITS // 4  # hexadecimal figures of the digest that the words stand for


class HeadWordsError(CandorError, ValueError):
    """Words that are no head of a chain."""


@lru_cache(maxsize=1)
def _listed() -> tuple[str, ...]:
    from mnemonic import Mnemonic  # here: a window is up before a paper is printed

    return tuple(Mnemonic("english").wordlist)


def words_of(chain: str) -> str:
    """Return the eight words of a digest (hex, at least 22 figures); nothing of what is no digest."""
    if not re.match(rf"[0-9a-f]{{{DIGITS}}}", chain):
        return ""  # none, or one that somebody has changed
    number = int(chain[:DIGITS], 16)
    return " ".join(_listed()[number >> BITS * place & 2**BITS - 1] for place in reversed(range(COUNT)))


def head_of(text: str) -> str:
    """Return the first 22 hexadecimal figures of the digest whose eight words are typed; four letters of each are enough.

    Raises
    ------
    HeadWordsError
        Where they are not eight, or one is not of the list.
    """
    typed = re.findall(r"[a-z]+", text.lower())
    if len(typed) != COUNT:
        raise HeadWordsError(
            worded("storage.words_were_given_expected_the_eight", typed=len(typed)), value=text[:200]
        )
    number = 0
    for place, word in enumerate(typed, 1):
        number = number << BITS | _listed().index(_of_the_list(word, place))
    return f"{number:0{DIGITS}x}"


def _of_the_list(word: str, place: int) -> str:
    known = _listed()
    # Four letters tell the words apart; shorter ones are whole.
    found = [w for w in known if w == word] or [w for w in known if len(word) >= 4 and w.startswith(word)]
    if len(found) == 1:
        return found[0]
    near = difflib.get_close_matches(word, known, 2)
    like = worded("storage.like_it", listed=" or ".join(near)) if near else ""
    raise HeadWordsError(
        worded("storage.word_is_not_one_of_the", place=place, word=word[:30], like=like),
        value=word,
        place=f"word {place}",
    )
