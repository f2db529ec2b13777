"""A drawing that somebody made badly: seen, mended, scaled, taken, laid out, handed over and proved."""

import re

import pytest
import shapely
from leannotch_core.drawings.svg import read_svg
from leannotch_core.proof.sweep import prove
from playwright.sync_api import expect

from ..projects import ROOT
from .conftest import choose
from .test_first_path import download

LABELS = ROOT / "demo" / "brought" / "specimen_labels.svg"


def test_a_badly_drawn_sheet_comes_in_and_goes_out_proved(maker, page):
    page.goto("/")
    with page.expect_file_chooser() as chooser:
        page.get_by_text("Bring a drawing that somebody made").click()
    chooser.value.set_files(LABELS)
    expect(page.get_by_role("heading", name="Way in: specimen_labels.svg")).to_be_visible()
    expect(page.get_by_text("The file does not say so; this was assumed.")).to_be_visible()
    expect(page.get_by_text("2 lines stay open and are not cut; the narrowest gap is 0.07 mm")).to_be_visible()

    # Its numbers are millimetres: the gap is then 0.25 mm wide.
    choose(page.get_by_label("Its numbers are in"), "mm")
    expect(page.get_by_text("270 mm (10.63 in)")).to_be_visible()
    maker.type("Ends join within", "0.3")
    expect(page.get_by_text("9 parts and no open line")).to_be_visible()
    expect(page.get_by_text("32 chords are 2 arcs again")).to_be_visible()
    expect(page.get_by_role("button", name="Part 1 × 6")).to_contain_text("70 × 26 mm")

    # A length that is known has all of it follow.
    maker.type("The whole should be wide", "135")
    expect(page.get_by_role("button", name=re.compile("Part 1"))).to_contain_text("35 × 13 mm")
    page.get_by_role("button", name="Back to the size of the file").click()
    expect(page.get_by_role("button", name="Part 1 × 6")).to_contain_text("70 × 26 mm")

    page.get_by_text("It seems drawn for a sheet of 3 mm").click()
    expect(page.get_by_text("6 slots and notches will follow the thickness of the stock")).to_be_visible()
    page.get_by_role("button", name="Take all 9 parts").click()
    expect(maker.facts()).to_contain_text("9 parts not laid out")
    maker.part("Part 2")
    expect(page.get_by_label("6 slots are wide")).to_have_value("thickness + clearance")
    maker.station("Lay out")
    choose(page.get_by_label("Look for"), "2 seconds")
    page.get_by_role("region", name="Layout").get_by_role("button", name="Lay out").click()
    expect(maker.facts()).to_contain_text("9 parts on 1 sheet", timeout=60_000)
    maker.station("Prove")
    expect(page.get_by_text("All 9 parts come free as meant.")).to_be_visible()
    maker.station("Hand over")
    drawing = read_svg(download(page, "Save sheet 1 as SVG").read_bytes())
    pieces = [p for p in prove(drawing, 0.16).pieces if p.kind == "part"]
    assert sorted(tuple(sorted((round(p.width, 1), round(p.height, 1)))) for p in pieces) == sorted(
        [(26, 70)] * 6 + [(40, 150)] + [(40, 40)] * 2
    )
    # The lines to write on, beside the letters of the names.
    lengths = [line.segments[0].length for line in drawing.lines if line.layer == "score"]
    assert sum(abs(length - 46) < 0.01 for length in lengths) == 6
    # Slots drawn for 3 mm are as wide as the library's birch of 3.07 with its clearance for glue of 0.1.
    board = next(p.shape for p in pieces if p.holes == 6)
    slots = [shapely.Polygon(ring).bounds for ring in board.interiors]
    assert [min(right - left, top - bottom) for left, bottom, right, top in slots] == pytest.approx(
        [3.17] * 6, abs=0.002
    )
