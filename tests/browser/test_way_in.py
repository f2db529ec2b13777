"""A drawing that somebody made badly: seen, mended, scaled, taken, laid out, handed over and proved."""

import re
from itertools import pairwise

import ezdxf
import pytest
import shapely
import trimesh
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


def bring(page, label, file):
    with page.expect_file_chooser() as chooser:
        page.get_by_text(label).click()
    chooser.value.set_files(file)


def test_a_mesh_is_laid_flat_seen_assembled_joined_and_handed_over(maker, page):
    page.goto("/")
    bring(page, "Bring a drawing that somebody made", ROOT / "demo" / "brought" / "sieve_shaker.stl")
    expect(page.get_by_text("9 bodies, 8 of them plates")).to_be_visible()
    expect(page.get_by_role("button", name=re.compile("Body 9"))).to_contain_text(
        "no plate: its walls lean by 30.9 degrees"
    )
    page.get_by_role("button", name="In space").click()
    space = page.get_by_label("The bodies of the mesh in space")
    expect(space).to_have_attribute("aria-busy", "false")
    space.click(position={"x": 470, "y": 380})
    expect(page.get_by_role("button", name=re.compile("^Body"), pressed=True)).to_be_visible()
    # One sheet of the library's 3 mm is at hand; the 6 mm ones are new, until they are measured.
    expect(page.get_by_text("Drawn 3; the sheet in hand is 3.07.")).to_be_visible()
    page.get_by_role("button", name="Take all 8 parts").click()
    expect(maker.facts()).to_contain_text("8 parts not laid out")
    maker.station("Join")
    offered = page.get_by_role("listitem").filter(has_text="The bottom of Body 2, 6 mm meets the top of Body 1, 6 mm")
    offered.get_by_role("button", name="Join by finger joint").click()
    expect(page.get_by_role("row", name=re.compile("finger, glue Body 2"))).to_be_visible()
    other = page.get_by_role("listitem").filter(has_text="bottom of Body 1, 6 mm meets the bottom of Body 2, 6 mm")
    other.get_by_role("button").click()
    expect(page.get_by_role("row", name=re.compile("finger, glue"))).to_have_count(4)
    # As large as it was in the mesh, and nothing in the way of anything.
    page.get_by_role("button", name="Dry fit").click()
    expect(page.get_by_text("200 mm", exact=True).first).to_be_visible()
    page.get_by_role("button", name="Check the fit").click()
    expect(page.get_by_text("No part is in another's way.")).to_be_visible()
    maker.station("Lay out")
    choose(page.get_by_label("Look for"), "2 seconds")
    page.get_by_role("region", name="Layout").get_by_role("button", name="Lay out").click()
    expect(maker.facts()).to_contain_text("8 parts on 2 sheets")
    maker.station("Prove")
    expect(page.get_by_text("All 8 parts come free as meant.")).to_be_visible()


def to_proof(maker, page, says, free):
    """Lays out what was taken, and proves it."""
    maker.station("Lay out")
    choose(page.get_by_label("Look for"), "2 seconds")
    page.get_by_role("region", name="Layout").get_by_role("button", name="Lay out").click()
    expect(maker.facts()).to_contain_text(says, timeout=60_000)
    maker.station("Prove")
    expect(page.get_by_text(free)).to_be_visible()


def test_an_inch_drawing_without_a_unit_and_what_it_holds_are_told_and_it_is_handed_over(maker, page, tmp_path):
    """Two equal plates as four and two lines that cross, with slots for the birch at hand; and a line of no use."""
    document = ezdxf.new(units=0)
    document.header["$MEASUREMENT"] = 1
    space = document.modelspace()
    for x in (0, 120, 240):
        space.add_line((x / 25.4, -5 / 25.4), (x / 25.4, 65 / 25.4))
    for y in (0, 60):
        space.add_line((-5 / 25.4, y / 25.4), (245 / 25.4, y / 25.4))
    for x in (50, 170):
        corners = [(x, 20), (x + 3.1, 20), (x + 3.1, 40), (x, 40)]
        space.add_lwpolyline([(a / 25.4, b / 25.4) for a, b in corners], close=True)
    space.add_line((0, 100 / 25.4), (240 / 25.4, 100 / 25.4), dxfattribs={"linetype": "CENTER"})
    document.linetypes.add("CENTER", [12, 10, -2])
    document.saveas(tmp_path / "inches.dxf")
    page.goto("/")
    bring(page, "Bring a drawing that somebody made", tmp_path / "inches.dxf")
    expect(
        page.get_by_text("As inches its 2 slots are 3.1 mm wide, as your Birch ply 3 mm measures 3.07 mm")
    ).to_be_visible()
    page.get_by_role("button", name="take it as inches").click()
    expect(page.get_by_role("button", name="Part 1 × 2")).to_contain_text("120 × 60 mm · 1 opening")
    expect(page.get_by_text("Lines cross at 6 places without an end there; they were divided.")).to_be_visible()
    expect(page.get_by_text("1 line is taken as a reference, and not cut")).to_be_visible()
    page.get_by_role("button", name="Where, 6 places").click()
    expect(page.get_by_role("button", name="Where, 6 places", pressed=True)).to_be_visible()
    page.get_by_role("button", name="What the file holds").click()
    expect(page.get_by_role("row", name="6 LINE 6 taken")).to_be_visible()
    choose(page.get_by_label("Where lines cross"), "as one whole")
    expect(page.get_by_role("button", name="Take the part")).to_be_visible()
    choose(page.get_by_label("Where lines cross"), "room by room")
    page.get_by_role("button", name="Take all 2 parts").click()
    expect(maker.facts()).to_contain_text("2 parts not laid out")
    to_proof(maker, page, "2 parts on 1 sheet", "All 2 parts come free as meant.")


def test_a_mesh_of_a_box_is_joined_in_one_step_and_proved(maker, page, tmp_path):
    """Three walls on a bottom: two of them are equal, and what is cut into them is not."""
    places = [(0, 0, 0, 160, 100, 3), (0, 0, 3, 160, 3, 60), (0, 97, 3, 160, 3, 60), (0, 3, 3, 3, 94, 60)]
    boxes = [
        trimesh.creation.box(size).apply_translation([at + side / 2 for at, side in zip(corner, size, strict=True)])
        for *corner, a, b, c in places
        for size in [(a, b, c)]
    ]
    trimesh.util.concatenate(boxes).export(tmp_path / "box.stl")
    page.goto("/")
    bring(page, "Bring a drawing that somebody made", tmp_path / "box.stl")
    page.get_by_role("button", name="Take all 4 parts").click()
    maker.station("Join")
    page.get_by_role("button", name="Join all that is offered").click()
    expect(page.get_by_role("row", name=re.compile("finger, glue"))).to_have_count(10)
    page.get_by_role("button", name="Dry fit").click()
    page.get_by_role("button", name="Check the fit").click()
    expect(page.get_by_text("No part is in another's way.")).to_be_visible()
    to_proof(maker, page, "4 parts on 1 sheet", "All 4 parts come free as meant.")


def shelf(path, wide, gap):
    """A shelf of loose lines, with a gap at one corner, and a ring."""
    document = ezdxf.new(units=4)
    space = document.modelspace()
    places = [(gap, 0), (wide, 0), (wide, 60), (0, 60), (0, 0)]
    for start, end in pairwise(places):
        space.add_line(start, end, dxfattribs={"layer": "shelf"})
    space.add_text("RAIN", height=6, dxfattribs={"layer": "shelf"}).set_placement((10, 10))
    space.add_circle((wide + 40, 30), 20, dxfattribs={"layer": "ring"})
    document.saveas(path)
    return path


def test_a_newer_drawing_changes_the_parts_that_it_changes(maker, page, tmp_path):
    page.goto("/")
    bring(page, "Bring a drawing that somebody made", shelf(tmp_path / "shelf.dxf", 120, 0.3))
    maker.type("Ends join within", "0.5")
    expect(page.get_by_text("1 gap was joined")).to_be_visible()
    # A mend is left where it lies, and taken again.
    gap = page.get_by_role("button", name="gap, joined")
    gap.press("Enter")
    expect(page.get_by_text("1 part and 1 open line")).to_be_visible()
    page.get_by_role("button", name="gap, left open").press("Enter")
    expect(page.get_by_text("2 parts and no open line")).to_be_visible()
    choose(page.get_by_label("Live text is"), "set in plain")
    expect(page.get_by_role("button", name=re.compile("shelf"))).to_contain_text("“RAIN”")
    page.get_by_role("button", name="Take all 2 parts").click()
    expect(page.get_by_label("Width", exact=True)).to_be_visible()
    maker.part("shelf")
    maker.type("How many", "3")

    page.get_by_role("link", name="Bring a drawing").click()
    with page.expect_file_chooser() as chooser:
        page.get_by_role("button", name="Bring a newer one of shelf.dxf").click()
    chooser.value.set_files(shelf(tmp_path / "shelf_2.dxf", 150, 0.3))
    # What was chosen for the earlier one holds for it, and what changed is told before it is taken.
    expect(page.get_by_label("shelf: 120 mm x 60 mm is now 150 mm x 60 mm")).to_be_checked()
    expect(page.get_by_text("1 part is as it was.")).to_be_visible()
    page.get_by_role("button", name="Take what is ticked").click()
    expect(page.get_by_label("Width", exact=True)).to_have_value("150")
    expect(page.get_by_label("How many")).to_have_value("3")
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_label("Width", exact=True)).to_have_value("120")


def test_a_file_that_was_brought_is_deleted_and_had_back(page, served, tmp_path):
    slug = served.post("/api/projects/stake-tags/duplicate", {})["slug"]
    data = shelf(tmp_path / "shelf.dxf", 120, 0.3).read_bytes()
    served.post_bytes(f"/api/projects/{slug}/brought?name=shelf.dxf", data)
    page.goto(f"/projects/{slug}/way-in")
    page.get_by_role("button", name="Delete the file: shelf.dxf").click()
    expect(page.get_by_role("link", name="shelf.dxf", exact=True)).to_have_count(0)
    page.get_by_role("button", name="Have it back: shelf.dxf").click()
    expect(page.get_by_role("link", name="shelf.dxf", exact=True)).to_be_visible()
    expect(page.get_by_role("heading", name="Deleted")).to_have_count(0)


def test_a_file_that_cannot_be_read_is_told_and_not_kept(maker, page, tmp_path):
    broken = tmp_path / "broken.svg"
    broken.write_text("<svg><g></svg>")
    maker.open("shape", "stake-tags")
    page.get_by_role("link", name="Bring a drawing").click()
    bring(page, "Bring a drawing (SVG, DXF)", broken)
    expect(page.get_by_text("The SVG file is broken at line 1")).to_be_visible()
    page.get_by_role("link", name="Bring another file").click()
    expect(page.get_by_role("heading", name="Way in to Stake tags")).to_be_visible()
    expect(page.get_by_text("broken.svg")).to_have_count(0)
