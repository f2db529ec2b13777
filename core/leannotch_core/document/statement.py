"""What a file of ours says of itself: its unit, and who compensates for the kerf. Written so, and known again so."""

from __future__ import annotations

from typing import get_args

from .machine import ZDatum
from .sums import Unit

#: How a file of ours states its unit in words: the only way there is in DXF R12, which has no $INSUNITS.
IN_MILLIMETRES = "Sizes in millimetres."
IN_INCHES = "Sizes in inches."


def statement(kerf: float, compensated: bool, unit: Unit = "mm") -> str:
    """The sentence in the file of a sheet that is cut with a kerf of so many mm."""
    sizes = IN_MILLIMETRES if unit == "mm" else IN_INCHES
    if compensated:
        return f"{sizes} Kerf of {kerf:g} mm compensated in this file: cut on the line, no machine offset."
    return f"{sizes} Kerf not compensated in this file: offset by {kerf / 2:g} mm at the machine."


def z_statement(z_datum: ZDatum) -> str:
    """The sentence in a router's program that says what its z 0 is, and what that asks for at each cutter."""
    return f"z 0 is {z_datum}: touch every cutter off there, after each change too"


#: What is at z 0 by the sentence that says so.
Z_STATED: dict[str, ZDatum] = {z_statement(datum): datum for datum in get_args(ZDatum)}
