"""Units of length: what each is in mm, how it is called, and how files write it. A new unit is a row here."""

from __future__ import annotations

from collections.abc import Mapping

#: The inch is exactly 25.4 mm (international yard and pound agreement, 1959).
INCH = 25.4

#: Millimetres in one unit: the metric ones, inch and foot, those of CSS (Values and Units 3, 6.2) and of 3MF (Core 1.3,
#: 3.4).
MM: Mapping[str, float] = {
    "mm": 1.0,
    "cm": 10.0,
    "m": 1000.0,
    "in": INCH,
    "ft": 304.8,
    "px": INCH / 96,
    "pt": INCH / 72,
    "pc": INCH / 6,
    "q": 0.25,
    "micron": 0.001,
}

#: As they are called in a sentence.
CALLED: Mapping[str, str] = {
    "mm": "millimetres",
    "cm": "centimetres",
    "m": "metres",
    "in": "inches",
    "ft": "feet",
    "px": "px at 96 to the inch",
    "pt": "points at 72 to the inch",
}

#: Other words for them, in files and in sums.
ALSO: Mapping[str, str] = {
    '"': "in",
    "inch": "in",
    "inches": "in",
    "foot": "ft",
    "feet": "ft",
    "millimeter": "mm",
    "centimeter": "cm",
    "meter": "m",
}
