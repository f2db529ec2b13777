"""Every family of joint: a new one is a folder beside this file, and its line here."""

from __future__ import annotations

from typing import Annotated, get_args

from pydantic import Field

from .captive_nut.typed import CaptiveNut
from .cross_lap.typed import CrossLap
from .family import Family
from .finger.typed import FingerJoint
from .housing.typed import Housing
from .splice.typed import Splice
from .tab_and_slot.typed import TabAndSlot

Joint = Annotated[FingerJoint | TabAndSlot | CrossLap | Splice | CaptiveNut | Housing, Field(discriminator="kind")]

#: The families by their kind.
FAMILIES: dict[str, type[Family]] = {f.model_fields["kind"].default: f for f in get_args(get_args(Joint)[0])}
