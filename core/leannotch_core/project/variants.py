"""Variants: the same design for other stocks or named sizes, each with a layout, machine and files of its own."""

from __future__ import annotations

from pydantic import Field

from ..document.model import Model
from ..document.starter import NamedSize
from ..said import Said
from .project import Project

#: What of a project its variants share with it, and what that is called; all else is each one's own.
DESIGN = {"parts": "parts", "joints": "joints", "starters": "starters", "fit": "fit"}


class Own(Model):
    """What a variant has of its own beside its layout: stocks by their ids, and named sizes by their names."""

    stocks: list[str] = Field(default=[], max_length=40)
    names: list[str] = Field(default=[], max_length=200)


def following(design: Project, variant: Project, own: Own) -> Project:
    """The variant as its design is now, with what it has of its own kept."""
    stocks = {stock.id: stock for stock in variant.stocks if stock.id in own.stocks}
    names = {named.name: named for named in variant.names if named.name in own.names}
    machines = {machine.id: machine for machine in (*design.machines, *variant.machines)}
    ids = {part.id for part in design.parts}
    gone = {placement.part for placement in variant.layout.placements} - ids
    return variant.model_copy(
        update={
            **{field: getattr(design, field) for field in DESIGN},
            "stocks": [stocks.get(stock.id, stock) for stock in design.stocks],
            "names": [_own_size(named, names) for named in design.names],
            "machines": list(machines.values())[:20],
            "layout": variant.layout.without(gone) if gone else variant.layout,
        }
    )


def _own_size(named: NamedSize, names: dict[str, NamedSize]) -> NamedSize:
    own = names.get(named.name)
    return named.model_copy(update={"size": own.size}) if own else named


class ChangesDesign(Said):
    """An edit of a variant that would change what it shares with its design."""


def own_of(before: Project, after: Project, own: Own) -> Own:
    """What a variant has of its own after an edit. Raises `ChangesDesign` where that changed its design."""
    for field, called in DESIGN.items():
        if getattr(before, field) != getattr(after, field):
            raise ChangesDesign(called)
    if [n.name for n in before.names] != [n.name for n in after.names]:
        raise ChangesDesign("list of named sizes")
    if [s.id for s in before.stocks] != [s.id for s in after.stocks]:
        raise ChangesDesign("list of stocks")
    stocks = {new.id for old, new in zip(before.stocks, after.stocks, strict=True) if old != new}
    names = {new.name for old, new in zip(before.names, after.names, strict=True) if old != new}
    return Own(stocks=sorted({*own.stocks, *stocks}), names=sorted({*own.names, *names}))
