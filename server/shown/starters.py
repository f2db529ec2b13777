"""What a browser is told of starters: their kinds, and what one would make before it is made."""

from __future__ import annotations

from typing import Literal

from leannotch_core.document.sizes import Size
from leannotch_core.document.stock import Material
from leannotch_core.facts.findings import Finding
from leannotch_core.scripted.own_starter import OwnNumber
from ninja import Schema

from shown.join import DryFitShown


class NumberShown(Schema):
    """A number of a starter, and what it begins with while no other one is typed."""

    name: str
    title: str
    begins: Size
    holds: Literal["size", "plain", "list"]


class ChoiceShown(Schema):
    name: str
    title: str
    options: list[str]


class KindShown(Schema):
    """A kind of starter. ``second_stock`` is what the second stock is for, empty where there is none; it begins with a
    stock of its ``material`` where there is one.
    """

    key: str
    title: str
    says: str
    numbers: list[NumberShown]
    choices: list[ChoiceShown]
    second_stock: str
    material: Material | None


class StarterFacts(Schema):
    """What a starter has to say, and what each of its numbers is that was not typed."""

    begins: dict[str, Size]
    notes: list[str]


class StarterShown(Schema):
    """What a starter would make: drawn in space, with what it needs. ``area`` is that of all its parts, in mm²."""

    fit: DryFitShown
    parts: int
    joints: int
    area: float
    facts: StarterFacts
    findings: list[Finding]
    stock_of: dict[str, str]


class OwnStarterShown(Schema):
    """A starter of one's own; ``begins`` are its numbers until they are typed."""

    id: int
    name: str
    says: str
    numbers: list[OwnNumber]
    begins: dict[str, Size]
    parts: int
