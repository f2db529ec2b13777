"""Stocks: sheet materials as measured, and what is known of them on each machine that cuts them."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Annotated, Literal

from pydantic import Field

from .bend import Bending
from .keep_out import KeepOut, SheetPoint
from .model import Day, Id, Millimetres, Model, Name
from .routing import RoutedAt
from .setting import CutAt, Setting
from .sizes import LARGEST, Size
from .wood import Wood

Feel = Literal["falls apart", "holds until tapped", "firm", "stiff"]

Material = Literal[
    "plywood",
    "solid wood",
    "MDF",
    "acrylic",
    "card",
    "aluminium",
    "fabric",
    "PVC",
    "polycarbonate",
    "ABS",
    "foam",
    "other",
]

#: What a beam never cuts, with the reason: common practice, no source. A router does.
NEVER_BURNED: Mapping[Material, str] = {
    "PVC": "burnt, sheets with chlorine in them give off hydrogen chloride, which harms lungs and eats machines",
    "polycarbonate": "it chars and catches fire before it is cut through, and its smoke is poisonous",
    "ABS": "it melts and burns with soot and poisonous smoke before it is cut through",
    "foam": "it catches fire at once and goes on burning under the head, with poisonous smoke",
}


class TypedKerf(Model):
    """A kerf that the maker knows: full width of what the beam or cutter removes."""

    how: Literal["typed"] = "typed"
    width: Size


class StripKerf(Model):
    """A strip of known length cut into pieces; the missing length is kerf."""

    how: Literal["strip"] = "strip"
    strip: Size
    pieces: list[Size] = Field(min_length=1, max_length=50)


class PlugKerf(Model):
    """One square cut on its line: the plug is smaller and its hole larger."""

    how: Literal["plug"] = "plug"
    hole: Size
    plug: Size


Kerf = Annotated[TypedKerf | StripKerf | PlugKerf, Field(discriminator="how")]


class Sheet(Model):
    """A size in which the stock is at hand. Width lies along x.

    ``at_hand`` is how many there are, none of them being as many as are needed. ``worth`` is what one costs, in any
    money; without it sheets are compared by their areas. ``outline`` is that of an offcut, in mm.
    """

    width: Size
    height: Size
    at_hand: int | None = Field(default=None, ge=0, le=500)
    worth: float | None = Field(default=None, ge=0, le=1_000_000)
    outline: list[SheetPoint] = Field(default=[], max_length=400)
    keep_outs: list[KeepOut] = Field(default=[], max_length=40)


class Clearances(Model):
    """Finished opening less finished insert for each class of fit; negative is interference."""

    loose: Size
    sliding: Size
    glue: Size
    press: Size


class Felt(Model):
    """A pair of a test coupon: its marked clearance in mm, and how it felt."""

    clearance: float = Field(ge=-10, le=10)
    feel: Feel


class CouponResult(Model):
    """What a coupon or cut parts showed of a stock on a machine: kerf (that of the lower face, where it is another) and
    clearances in mm as they were from that day on.
    """

    date: Day
    kerf: float = Field(ge=0, le=LARGEST)
    below: float | None = Field(default=None, ge=0, le=LARGEST)
    loose: Millimetres
    sliding: Millimetres
    glue: Millimetres
    press: Millimetres


class KerfAt(Model):
    """A kerf, along y of the machine and on the lower face too where that was measured, of cuts that were made ``at``
    other settings.
    """

    kerf: Kerf
    up: Kerf | None = None
    below: Kerf | None = None
    at: CutAt


class CutterWidth(Model):
    """How wide a cutter really cuts, with what it runs out and is bent aside."""

    at: RoutedAt
    width: Kerf


#: So many of the latest results are kept.
MOST_RESULTS = 60

#: Of so many settings kerfs are known.
MOST_KERFS = 20

#: And of so many ways of cutters.
MOST_WIDTHS = 60

#: The face of a sheet on its bed on which parts come out as they were typed.
MadeFor = Literal["the upper face", "the middle", "the lower face"]


#: At which side of a part, as it is drawn, its cuts are begun.
LeadSide = Literal["any", "left", "right", "bottom", "top"]


class Heat(Model):
    """What a stock wants of the heat of a beam; values to begin with are common practice, no source.

    Parts whose edges show are begun with a ``lead``-in from the waste, at a ``side`` of them. Beside a thin web the
    beam cuts again once it has rested for ``rests`` s. Between two cuts ``web`` mm are left for each percent second a
    millimetre that they get of the beam (`CutAt.dose`): what is narrower is scorched or warps.
    """

    lead: Size = Size(text="1")
    side: LeadSide = "any"
    rests: float = Field(default=8, ge=0, le=600)
    web: float = Field(default=0.2, ge=0, le=20)


class Known(Model):
    """What is known of cutting a stock: kerf and clearances, and what coupons showed, the latest last.

    ``kerf`` is that of the upper face, at which a beam comes in. It is measured along x of the machine where another
    was measured ``up``, along its y; else both ways. ``below`` is that of the lower face; without it walls are
    straight. Where both are known, parts measure what was typed on the face that they are ``made_for``. They were
    measured of cuts ``at`` what the stock was cut with; ``kerfs`` are those of other settings.
    """

    kerf: Kerf
    up: Kerf | None = None
    below: Kerf | None = None
    made_for: MadeFor = "the middle"
    at: CutAt | None = None
    kerfs: list[KerfAt] = Field(default=[], max_length=MOST_KERFS)
    clearances: Clearances
    history: list[CouponResult] = Field(default=[], max_length=MOST_RESULTS)


class OnMachine(Known):
    """What is known of a stock on one machine, the settings that it is worked with, and how wide cutters cut in it."""

    machine: Id
    settings: list[Setting] = Field(default=[], max_length=60)
    widths: list[CutterWidth] = Field(default=[], max_length=MOST_WIDTHS)

    @property
    def cut_now(self) -> CutAt | None:
        """What a beam cuts it with; None where nothing was typed."""
        return next((one.at for one in self.settings if one.operation == "cut" and not one.cutter), None)

    def with_kerf(self, kerf: Kerf, at: CutAt | None) -> dict[str, object]:
        """Fields of it with a kerf that was measured ``at`` some settings: what is known of other ones stays."""
        before = [] if self.at is None else [KerfAt(kerf=self.kerf, up=self.up, below=self.below, at=self.at)]
        others = [one for one in [*self.kerfs, *before] if one.at != at]
        return {"kerf": kerf, "at": at, "kerfs": others[-MOST_KERFS:]}


class ThicknessAt(Model):
    """A caliper reading at a place of the sheet: its shares of the width from the left and of the height from below."""

    x: float = Field(ge=0, le=1)
    y: float = Field(ge=0, le=1)
    reading: Size


class Stock(Known):
    """A sheet material as measured. What is known of it holds for machines that have nothing of their own ``on`` it.

    ``readings`` are those that its thickness is the mean of, ``over`` those of the sheet that is cut next, by place.
    Where it is solid, it says which ``wood``.
    """

    id: Id
    name: Name
    material: Material
    nominal: Size
    readings: list[Size] = Field(max_length=40)
    over: list[ThicknessAt] = Field(default=[], max_length=40)
    grain: Literal["none", "along width", "along height"] = "none"
    sheets: list[Sheet] = Field(min_length=1, max_length=12)
    smallest_web: Size
    bending: Bending = Bending()
    heat: Heat = Heat()
    wood: Wood | None = None
    on: list[OnMachine] = Field(default=[], max_length=12)

    def own(self, machine: str) -> OnMachine | None:
        """What is known of it on a machine alone."""
        return next((known for known in self.on if known.machine == machine), None)

    def known(self, machine: str) -> Known:
        """What is known of it on a machine."""
        return self.own(machine) or self

    def with_known(self, machine: str, **changes: object) -> Stock:
        """The stock with something else known on a machine; without one, on all that have nothing of their own.

        A kerf is that of the settings of now, unless it is said ``at`` which it was measured.
        """
        if not machine:
            return self.model_copy(update=changes)
        known = self.known(machine)
        own = {name: getattr(known, name) for name in type(known).model_fields if name in OnMachine.model_fields}
        if known is self:
            # Coupons that were cut elsewhere say nothing of this machine.
            own["history"] = []
        changed = OnMachine(**{**own, "machine": machine})
        kerf = changes.get("kerf")
        if isinstance(kerf, TypedKerf | StripKerf | PlugKerf):
            at = changes.get("at")
            changes |= changed.with_kerf(kerf, at if isinstance(at, CutAt) else changed.cut_now)
        changed = OnMachine(**{**dict(changed), **changes})
        kept = list(self.on)
        at = next((at for at, old in enumerate(kept) if old.machine == machine), len(kept))
        kept[at : at + 1] = [changed]
        return self.model_copy(update={"on": kept})

    def with_width(self, machine: str, width: CutterWidth) -> Stock:
        """The stock with what a cutter cuts in it on a machine; what was known of it going round so is replaced."""
        own = self.own(machine)
        kept = list(own.widths) if own else []
        at = next((at for at, one in enumerate(kept) if one.at == width.at), len(kept))
        kept[at : at + 1] = [width]
        return self.with_known(machine, widths=kept[-MOST_WIDTHS:])

    @classmethod
    def begun(cls, stock_id: str, name: str) -> Stock:
        """A new one, to be measured: 3 mm plywood with values of common practice, no source."""

        def mm(text: str) -> Size:
            return Size(text=text)

        return cls(
            id=stock_id,
            name=name,
            material="plywood",
            nominal=mm("3"),
            readings=[],
            sheets=[Sheet(width=mm("600"), height=mm("400"))],
            smallest_web=mm("2"),
            kerf=TypedKerf(width=mm("0.2")),
            clearances=Clearances(loose=mm("0.3"), sliding=mm("0.2"), glue=mm("0.1"), press=mm("-0.05")),
        )
