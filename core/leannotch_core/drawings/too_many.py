"""What a project cannot take of a drawing, said before it is taken: with the part, its number, and the limit."""

from __future__ import annotations

from collections.abc import Sequence

from ..document.limits import MOST_BROUGHT, MOST_COPIES, MOST_OF_A_PART
from .recognised import FoundPart


def too_many(found: Sequence[FoundPart], copies_there: int = 0) -> str:
    """Why a project with so many copies of parts cannot take these parts; nothing where it can."""
    often = next((part for part in found if part.count > MOST_OF_A_PART), None)
    if often is not None:
        return (
            f"{often.name} is there {often.count} times; a part has at most {MOST_OF_A_PART} copies. Leave some of "
            "them out of the drawing, or bring it in pieces into projects of their own."
        )
    if len(found) > MOST_BROUGHT:
        return (
            f"These are {len(found)} different parts; at most {MOST_BROUGHT} are taken at a time. Choose fewer of them."
        )
    copies = copies_there + sum(part.count for part in found)
    if copies > MOST_COPIES:
        return (
            f"With these the project has {copies} copies of parts; it has at most {MOST_COPIES}. Choose fewer of them."
        )
    return ""
