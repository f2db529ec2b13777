"""Units, formats, stocks and layouts by themselves: what each answers, by hand."""

import math

import pytest
from leannotch_core.document.formats import FORMATS, format_named
from leannotch_core.document.sheet import Layout
from leannotch_core.document.stock import Stock
from leannotch_core.document.sums import FUNCTIONS, SizeError, read
from leannotch_core.document.units import MM

from ...projects import stock


def test_units_are_as_long_as_their_standards_say():
    """CSS Values and Units 3, 6.2: 1in = 96px = 72pt = 6pc = 2.54cm, 1cm = 40q; a foot is 12 inches; 3MF's micron."""
    assert (
        MM["in"]
        == 25.4
        == pytest.approx(2.54 * MM["cm"])
        == pytest.approx(96 * MM["px"])
        == pytest.approx(72 * MM["pt"])
    )
    assert (
        MM["in"] == pytest.approx(6 * MM["pc"])
        and MM["cm"] == 40 * MM["q"]
        and MM["ft"] == pytest.approx(12 * MM["in"])
    )
    assert (MM["mm"], MM["cm"], MM["m"], MM["micron"]) == (1, 10, 1000, 0.001)


@pytest.mark.parametrize(
    ("name", "form"), [("a.SVG", "svg"), ("svgz", "svg"), ("b.tap", "nc"), ("c.doc", None), ("", None)]
)
def test_a_format_is_known_by_its_ending(name, form):
    assert format_named(name) == form
    assert [key for key, form in FORMATS.items() if form.program] == ["nc"]


@pytest.mark.parametrize("name", FUNCTIONS)
def test_a_function_takes_as_many_values_as_it_is_for(name):
    least, most = FUNCTIONS[name]
    value = {"sqrt": "4", "if": "1 < 2"}.get(name, "2")

    def asked(count):
        rest = ["3"] * (count - 1) if name != "round" else ["1"] * (count - 1)
        return read(f"{name}({', '.join([value, *rest][:count])})", "mm", {})

    assert math.isfinite(asked(least).number) and math.isfinite(asked(most).number)
    for count in (least - 1, most + 1):
        with pytest.raises(SizeError):
            asked(count)


def known_on(machine, width):
    return {
        "machine": machine,
        "kerf": {"how": "typed", "width": width},
        "clearances": stock().model_dump()["clearances"],
    }


def test_what_is_known_of_a_stock_holds_for_the_machine_that_it_was_cut_on():
    birch = Stock.model_validate(stock().model_dump() | {"on": [known_on("laser", "0.2"), known_on("mill", "3")]})
    widths = [birch.known(machine).kerf.width.text for machine in ("laser", "mill", "other", "")]
    assert widths == ["0.2", "3", "0.16", "0.16"]
    changed = birch.with_known("mill", kerf=birch.known("laser").kerf)
    assert [changed.known(machine).kerf.width.text for machine in ("laser", "mill", "")] == ["0.2", "0.2", "0.16"]


def test_a_layout_without_a_part_has_no_copy_of_it_anywhere():
    copies = [{"part": name, "copy_number": 1} for name in ("a", "b")]
    places = [{**copy, "sheet": 0, "x": 0, "y": 0, "turn": 0} for copy in copies]
    layout = Layout.model_validate({"placements": places, "done": copies, "laid": []})
    left = layout.without({"a"})
    assert [one.part for one in left.placements] == [one.part for one in left.done] == ["b"]
    assert [one.part for one in layout.only({"a"}).placements] == ["a"]
