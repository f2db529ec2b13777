"""Starters as they stand in a document, and the named sizes that they and the maker give."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from .model import PRINTABLE, Id, Model, Owner
from .sizes import Size

Word = Annotated[str, Field(max_length=40), PRINTABLE]


#: What a kind of starter is called in documents.
StarterWord = Literal["tray", "box", "bracket", "figure", "rack", "frame", "bent_bracket", "bent_rest", "bent_box"]


class Starter(Model):
    """A ready design that a few numbers drive; its parts, joints and named sizes bear its ``id``.

    ``sizes`` and ``choices`` are those of its kind, by name; what is not given is as the kind begins with.
    """

    id: Annotated[str, Field(pattern=r"^[a-z][a-z0-9_]{0,15}$")]
    kind: StarterWord
    stock: Id
    second_stock: Id
    sizes: dict[Word, Size] = Field(default={}, max_length=30)
    choices: dict[Word, Word] = Field(default={}, max_length=30)


class NamedSize(Model):
    """A size of the project that other sizes may use by its name. ``starter`` is the id of the one that made it, and
    ``note`` what the maker says of it.
    """

    name: Annotated[str, Field(pattern=r"^[a-z][a-z0-9_]{0,29}$")]
    size: Size
    note: Annotated[str, Field(max_length=120), PRINTABLE] = ""
    starter: Owner = ""
