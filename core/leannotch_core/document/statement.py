"""What a file of ours says of itself: its unit, and who compensates for the kerf. Written so, and known again so."""

from __future__ import annotations

#: How a file of ours states its unit in words: the only way there is in DXF R12, which has no $INSUNITS.
IN_MILLIMETRES = "Sizes in millimetres."


def statement(kerf: float, compensated: bool) -> str:
    """The sentence in the file of a sheet that is cut with a kerf of so many mm."""
    if compensated:
        return f"{IN_MILLIMETRES} Kerf of {kerf:g} mm compensated in this file: cut on the line, no machine offset."
    return f"{IN_MILLIMETRES} Kerf not compensated in this file: offset by {kerf / 2:g} mm at the machine."
