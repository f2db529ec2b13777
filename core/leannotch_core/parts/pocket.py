"""Recesses in a part's face."""

from __future__ import annotations

from dataclasses import dataclass

from ..geometry.loop import Outline


@dataclass(frozen=True, slots=True)
class Pocket:
    """A recess in a face, ``depth`` mm deep."""

    outline: Outline
    depth: float
