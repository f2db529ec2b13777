"""Cutters that ship: the usual sizes, so that a rack is begun with a click; each is measured before it is trusted."""

from __future__ import annotations

from ...document.cutter import Cutter, Tip
from ...document.sizes import Angle, Size


def _cutter(name: str, tip: Tip, diameter: str, length: str, flutes: int = 2, plunges: bool = True) -> Cutter:
    word = name.lower().replace(".", "_").replace(" ", "_").replace("°", "")
    return Cutter(
        id=f"c_{word}",
        name=name,
        tip=tip,
        diameter=Size(text=diameter),
        cutting_length=Size(text=length),
        flutes=flutes,
        plunges=plunges,
    )


#: Sizes as they are sold; lengths and flutes are common practice, no source.
SHIPPED = (
    _cutter("6.35 upcut", "upcut", "6.35", "25"),
    _cutter("6.35 compression", "compression", "6.35", "22", plunges=False),
    _cutter("3.175 upcut", "upcut", "3.175", "15"),
    _cutter("1.5875 upcut", "upcut", "1.5875", "6"),
    _cutter("6 ball", "ball", "6", "22"),
    _cutter("V 60°", "V", "12.7", "10").model_copy(update={"angle": Angle(text="60")}),
    _cutter("22 for facing", "upcut", "22", "8", plunges=False),
)
