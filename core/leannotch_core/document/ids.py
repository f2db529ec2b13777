"""Ids for new things."""

from __future__ import annotations


def free_id(word: str, taken: set[str]) -> str:
    """The word where nothing has it yet, else with the next number; it is ``taken`` from then on."""
    number, found = 1, word
    while found in taken:
        number += 1
        found = f"{word}_{number}"
    taken.add(found)
    return found
