"""Typed sizes, thickness and kerf: sums by hand and common-practice values."""

import pytest
from hypothesis import given
from hypothesis import strategies as st
from leannotch_core.document.sizes import Size, in_digits, length, positive, shown
from leannotch_core.document.stock import PlugKerf, StripKerf, TypedKerf
from leannotch_core.document.sums import SizeError
from leannotch_core.facts.kerf import kerf_width
from leannotch_core.facts.stock import facts

from ...projects import stock

NAMES = {"thickness": 3.07, "birch.thickness": 3.07, "tray_length": 240.0}


@pytest.mark.parametrize(
    ("text", "unit", "mm"),
    [
        ("240", "mm", 240),
        ("240 - 2*thickness", "mm", 233.86),
        ("3/16 in", "mm", 4.7625),
        ("1 1/2 in", "mm", 38.1),
        ('1/2"', "mm", 12.7),
        ("1/2", "in", 12.7),
        ("2 - 1 mm", "in", 49.8),
        ("(tray_length - 2*birch.thickness)/3", "mm", 77.9533333333),
        ("12,5", "mm", 12.5),
        ("-(2 + 3) cm", "mm", -50),
        ("tray_length/thickness*1 mm", "in", 240 / 3.07),
        ("max(40, tray_length/3; thickness)", "mm", 80),
        ("min(1 in, 30 mm)", "mm", 25.4),
        ("round(thickness)", "mm", 3),
        ("round(tray_length, 50)", "mm", 250),
        ("floor(10/3)", "mm", 3),
        ("ceil(thickness, 0,5)", "mm", 3.5),
        ("ceil(2.7/0.9)", "mm", 3),
        ("round(10 mm)", "in", 0),
        ("sqrt(30*30 + 40*40)", "mm", 50),
        ("sqrt((3 mm)*(12 mm))", "mm", 6),
        ("100*sin(30)", "mm", 50),
        ("tray_length*cos(60) + 10*tan(45)", "mm", 130),
        ("if(tray_length > 200, 12, 8)", "mm", 12),
        ("if(thickness >= 4; 12 mm; 8) + if(1 = 1, 1, 0)", "mm", 9),
        # Common practice, no source: half-inch plywood measures 0.475 in.
        ("0.475 in", "mm", 12.065),
    ],
)
def test_sums_units_fractions_and_names(text, unit, mm):
    assert length(Size(text=text, unit=unit), NAMES) == pytest.approx(mm)


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("", "missing"),
        ("abc", "“abc”, which is not known; names: birch.thickness"),
        ("3 mm * 4 mm", "multiplies lengths"),
        ("1/0", "divides by 0"),
        ("(3", "bracket is not closed"),
        ("3 4", "did not expect “4”"),
        ("nan", "not known"),
        ("9" * 60, "beyond 100 m"),
        ("3; drop", "did not expect “;”"),
        ("(" * 40 + "1" + ")" * 40, "too many brackets"),
        ("min(4)", "min takes 2 or more values"),
        ("sqrt(thickness)", "sqrt takes a plain number or an area"),
        ("sin(thickness)", "sin takes an angle in degrees"),
        ("if(thickness, 1, 2)", "if takes a comparison first"),
        ("log(3)", "“log” is nothing to work out; there are min, max"),
        ("max(1, 2", "bracket is not closed"),
        ("round(3, 0)", "round takes steps of more than 0"),
        ("min(3 mm, (2 mm)*(2 mm))", "a length is added to something that is not one"),
        ("0", "must be more than 0"),
        ("-5", "must be more than 0"),
    ],
)
def test_what_cannot_be_a_size_says_why(text, says):
    with pytest.raises(SizeError, match=says.replace("(", r"\(")):
        positive(Size(text=text), NAMES)


def test_thickness_is_the_mean_and_the_thickest_is_known():
    found = facts(stock(readings=("3.05", "3.08", "3.07", "3.06", "3.09")))
    assert found.thickness == pytest.approx(3.07)
    assert (round(found.spread, 9), found.thickest) == (0.04, 3.09)


def test_kerf_typed_from_a_strip_and_from_a_plug():
    assert kerf_width(TypedKerf(width=Size(text="0.16"))) == 0.16
    # By hand: 100 mm cut into five pieces of 19.84 mm leaves 0.8 mm for the kerf of five.
    strip = StripKerf(strip="100", pieces=["19.84"] * 5)
    assert kerf_width(strip) == pytest.approx(0.16)
    # By hand: a 20 mm square gives a 20.16 mm hole and a 19.84 mm plug.
    assert kerf_width(PlugKerf(hole="20.16", plug="19.84")) == pytest.approx(0.16)
    with pytest.raises(SizeError, match="measure them again"):
        kerf_width(PlugKerf(hole="19.84", plug="20.16"))


def test_lengths_are_shown_without_needless_zeros():
    assert [shown(3.07), shown(240.0), shown(12.7, "in"), shown(-0.0001)] == ["3.07 mm", "240 mm", "0.5 in", "0 mm"]


@given(st.floats(-99_999, 99_999) | st.floats(-1e-4, 1e-4))
def test_a_number_is_written_as_it_can_be_read_again(value):
    assert length(Size(text=in_digits(value)), {}) == pytest.approx(value, abs=5.1e-7)
    # What a script gives as a number is taken as exactly.
    assert length(Size.model_validate(value), {}) == pytest.approx(value, abs=5.1e-7)


def test_numbers_are_written_without_needless_digits():
    assert [in_digits(n) for n in (3, 3.10, -0.0, -1e-9, 1 / 3, 12345.678)] == [
        "3",
        "3.1",
        "0",
        "0",
        "0.333333",
        "12345.678",
    ]
