"""From a starter to proved files: seen in space, taken apart, changed and kept."""

import os
import re
import signal

from playwright.sync_api import expect
from pypdf import PdfReader

from .conftest import choose, chosen
from .test_first_path import download, parts_of


def test_a_newcomer_makes_a_tray_of_their_own(maker, page):
    page.goto("/")
    page.get_by_role("link", name="Begin with a starter").click()
    # Each is drawn with its outside sizes and what it needs, before one is chosen.
    plate = page.get_by_role("link", name="Tray with compartments")
    expect(plate.get_by_text("8 parts, 13 joints")).to_be_visible()
    for size in ("240 mm", "160 mm", "45 mm"):
        expect(plate.get_by_text(size, exact=True)).to_be_visible()
    expect(page.get_by_text(re.compile(r"\d+ parts?, \d+ joints?, \d+ cm² of sheet"))).to_have_count(9)
    plate.click()
    maker.type("Length", "200")
    columns = maker.type("Columns", "60, rest, 200", exact=False)
    expect(page.get_by_role("alert")).to_contain_text("mm for the rest; make the tray larger")
    columns.fill("60, rest, 30")
    columns.press("Enter")
    expect(page.get_by_text(re.compile("8 parts, 13 joints"))).to_be_visible()
    expect(page.get_by_role("group", name="What it would make").get_by_text("60 mm")).to_be_visible()
    page.get_by_label("Project name").fill("Shell tray of mine")
    page.get_by_role("button", name="Make it").click()

    # The readings of the sheet in hand.
    expect(maker.facts()).to_contain_text("8 parts not laid out")
    page.get_by_role("button", name="Thickness").click()
    maker.type("Readings", "3.2 3.22")
    expect(page.get_by_role("button", name="Thickness")).to_have_text("3.21 mm")
    page.keyboard.press("Escape")
    seen_and_taken_apart(maker, page)
    changed_with_its_hole_kept(maker, page)

    maker.station("Lay out")
    choose(page.get_by_label("Look for"), "2 seconds")
    page.get_by_role("region", name="Layout").get_by_role("button", name="Lay out").click()
    expect(page.get_by_text("7 of 7 parts moved.")).to_be_visible(timeout=20_000)
    maker.station("Hand over")
    upright = sorted(tuple(sorted(size)) for size in parts_of(download(page, "Save sheet 1 as SVG"), 0.16))
    assert (160, 200) in upright and len(upright) == 7 and upright.count((45, 200)) == 2


def seen_and_taken_apart(maker, page):
    """In space with its sizes, pulled apart, checked, put together step by step."""
    page.get_by_role("button", name="Dry fit").click()
    space = page.get_by_role("group", name="The parts put together")
    for size in ("200 mm", "160 mm", "60 mm", "30 mm"):
        expect(space.get_by_text(size, exact=True)).to_be_visible()
    # By hand: two walls and two dividers of 3.21, and the 60 and 30 that were given.
    rest = 200 - 2 * 3.21 - 2 * 3.21 - 90
    expect(space.get_by_text(f"{rest:.2f} mm", exact=True)).to_be_visible()
    page.get_by_role("slider", name="Pulled apart").press("End")
    expect(space.get_by_text("200 mm", exact=True)).to_have_count(0)
    page.get_by_role("slider", name="Pulled apart").press("Home")
    page.get_by_role("button", name="Check the fit").click()
    expect(page.get_by_text("No part is in another's way.")).to_be_visible()
    expect(page.get_by_text("Put together in 7 steps")).to_be_visible()
    page.get_by_role("button", name="Next step").click()
    expect(page.get_by_text(re.compile("Step 1 of 7: .* onto Floor, from above"))).to_be_visible()
    with page.expect_download() as kept:
        page.get_by_role("link", name="Assembly sheet").click()
    pages = [one.extract_text() for one in PdfReader(kept.value.path()).pages]
    assert len(pages) == 3 and re.search(r"Divider across\s+2\b", pages[0])
    assert "1. " in pages[1] and "7. " in pages[2] and "onto Floor, from above" in pages[1]


def changed_with_its_hole_kept(maker, page):
    """A thumb hole in a wall stays when the columns change."""
    page.get_by_role("button", name="Drawing").click()
    maker.part("Front wall")
    maker.put("Round hole")
    maker.type("Diameter", "18")
    page.get_by_role("button", name="What it is measured from").click()
    choose(page.get_by_label("Placed from", exact=True), "top left")
    maker.type("Distance across", "width/2")
    maker.type("Columns", "80, rest", exact=False)
    expect(page.get_by_role("contentinfo", name="Parts").get_by_role("button", name="Divider across")).to_be_visible()
    expect(page.get_by_role("button", name="round hole 1").first).to_be_visible()
    expect(maker.facts()).to_contain_text("7 parts")


def test_a_roof_too_wide_for_its_walls_is_mended_in_place(maker, page, served):
    def part(part_id, width, height, count=1):
        shape = {"kind": "rectangle", "width": str(width), "height": str(height)}
        return {"id": part_id, "name": part_id.capitalize(), "stock": "birch", "count": count, "shape": shape}

    tray = served.get("/api/projects/sorting-tray")["document"]
    ends = [
        ("floor", "bottom", "left"),
        ("floor", "bottom", "right"),
        ("roof", "top", "left"),
        ("roof", "top", "right"),
    ]
    joints = [
        {
            "kind": "finger",
            "id": f"joint_{i}",
            "finger": "15",
            "a": {"part": "wall", "side": side},
            "b": {"part": plate, "side": edge},
        }
        for i, (plate, side, edge) in enumerate(ends)
    ]
    house = {
        "format": "lean-notch project",
        "version": 1,
        "name": "Bird table",
        "stocks": tray["stocks"][:1],
        "parts": [part("floor", 128, 90), part("wall", 90, 50, 2), part("roof", 140, 90)],
        "joints": joints,
    }
    slug = served.post("/api/projects/open", house)["slug"]
    maker.open("join", slug)
    expect(maker.note("Roof is 140 mm wide, and Wall stands where 128 mm would meet it")).to_be_visible()
    page.get_by_role("button", name="Make Roof 128 mm wide").click()
    expect(maker.note("Roof is")).to_have_count(0)
    # Picked in the rail, it is picked in space; its size there is the new one.
    page.keyboard.press("d")
    space = page.get_by_role("group", name="The parts put together")
    expect(space.get_by_text("128 mm", exact=True).first).to_be_visible()
    box = space.bounding_box()
    space.click(position={"x": box["width"] / 2, "y": box["height"] / 2})
    chosen = page.get_by_role("contentinfo", name="Parts").get_by_role("button", pressed=True)
    assert chosen.inner_text().split("\n")[0] in ("Roof", "Wall × 2")


def test_a_compartment_is_typed_where_it_stands(maker, page):
    page.goto("/starters/tray")
    space = page.get_by_role("group", name="What it would make")
    space.get_by_role("button", name=re.compile("^Column 1, ")).click()
    maker.type("Column 1", "two")
    expect(page.get_by_role("alert")).to_contain_text("two")
    # Escape gives it up, and the size stands there again.
    page.get_by_label("Column 1", exact=True).press("Escape")
    expect(page.get_by_role("alert")).to_have_count(0)
    space.get_by_role("button", name=re.compile("^Column 1, 75.91 mm")).click()
    maker.type("Column 1", "1 in")
    expect(space.get_by_role("button", name="Column 1, 25.4 mm: type it")).to_be_visible()
    expect(page.get_by_label("Columns", exact=False)).to_have_value("1 in, 2 of rest")
    page.get_by_role("button", name="Make it").click()
    expect(maker.facts()).to_contain_text("8 parts")
    # The same in the dry fit of the project, where all sizes given make the outside.
    page.get_by_role("button", name="Dry fit").click()
    space = page.get_by_role("group", name="The parts put together")
    for index in (2, 3):
        space.get_by_role("button", name=re.compile(f"^Column {index}, ")).click()
        maker.type(f"Column {index}", "60")
        expect(space.get_by_role("button", name=f"Column {index}, 60 mm: type it")).to_be_visible()
    # By hand: 25.4 and two of 60, with two dividers and two walls of birch 3.07 thick.
    expect(space.get_by_text(f"{25.4 + 120 + 4 * 3.07:.2f} mm", exact=True)).to_be_visible()
    expect(page.get_by_text(re.compile("the length follows from them"))).to_be_visible()
    page.get_by_role("button", name="Undo").click()
    expect(space.get_by_text("240 mm", exact=True)).to_be_visible()


def test_a_box_joins_the_project_its_lid_comes_on_last_and_it_goes_again(maker, page):
    maker.open("shape")
    page.get_by_role("link", name="Add a starter").click()
    page.get_by_role("link", name="Box with a lid").click()
    choose(page.get_by_label("The lid", exact=True), "slides")
    expect(page.get_by_text(re.compile("6 parts"))).to_be_visible()
    page.get_by_role("button", name="Add it to Sorting tray").click()
    expect(maker.facts()).to_contain_text("14 parts")
    page.keyboard.press("d")
    page.get_by_role("button", name="Check the fit").click()
    expect(page.get_by_text("No part is in another's way.")).to_be_visible()
    for _ in range(5):
        page.get_by_role("button", name="Next step").click()
    told = page.get_by_text(re.compile("^Step 5 of .*: Lid onto what stands already, from the front"))
    expect(told).to_be_visible()
    page.get_by_role("button", name="Remove it with its parts").click()
    expect(maker.facts()).to_contain_text("8 parts")


WING = """<svg xmlns="http://www.w3.org/2000/svg" width="90mm" height="60mm" viewBox="0 0 90 60"
 fill="none" stroke="black"><path d="M0 60 A45 45 0 0 1 90 60 Z"/><circle cx="30" cy="45" r="5"/>
<path d="M5 5 L20 5"/></svg>"""


def test_a_silhouette_is_brought_from_a_file_and_handed_over_as_it_was_drawn(maker, page, tmp_path):
    wing, broken = tmp_path / "wing.svg", tmp_path / "open.svg"
    wing.write_text(WING)
    broken.write_text(WING.replace("90 60 Z", "90 59").replace('<circle cx="30" cy="45" r="5"/>', ""))
    page.goto("/starters/figure")
    page.get_by_role("button", name="Make it").click()
    maker.part("Long silhouette")
    page.get_by_label("Outline from a file").locator("input[type=file]").set_input_files(broken)
    expect(page.get_by_role("alert")).to_contain_text("No outline in the file is closed")
    page.get_by_label("Outline from a file").locator("input[type=file]").set_input_files(wing)
    expect(page.get_by_text("1 open line was left out.")).to_be_visible()
    # A half circle is twice as long as high, and the figure is 160 high.
    expect(page.get_by_label("Long way")).to_have_value("320")
    # On the drawing it is a number of the starter as well.
    expect(page.get_by_label("Width", exact=True)).to_have_value("320")
    maker.type("Height", "150", nth=1)
    expect(page.get_by_label("Height", exact=True).nth(0)).to_have_value("150")
    expect(maker.note("it is stretched wider")).to_be_visible()
    page.get_by_role("button", name="Undo").click()
    # Its other silhouette stays, and the joint goes on.
    page.keyboard.press("d")
    page.get_by_role("button", name="Check the fit").click()
    expect(page.get_by_text("No part is in another's way.")).to_be_visible()
    maker.station("Lay out")
    choose(page.get_by_label("Look for"), "2 seconds")
    page.get_by_role("region", name="Layout").get_by_role("button", name="Lay out").click()
    expect(page.get_by_text("2 of 2 parts moved.")).to_be_visible(timeout=20_000)
    maker.station("Hand over")
    # The slot takes the top of the arc: half its width squared over twice the radius of 160, which is 0.008.
    sizes = parts_of(download(page, "Save sheet 1 as SVG"), 0.16)
    assert sorted(tuple(sorted(size)) for size in sizes) == [(100, 160), (159.99, 320)]


def test_the_dry_fit_is_turned_and_parts_are_hidden_by_keyboard(maker, page):
    maker.open("shape")
    maker.part("Long wall")
    page.keyboard.press("d")
    space = page.get_by_role("group", name="The parts put together")
    length = space.get_by_text("240 mm", exact=True)
    expect(length).to_be_visible()
    before = length.bounding_box()
    space.focus()
    for _ in range(3):
        page.keyboard.press("ArrowRight")
    page.wait_for_function(
        "x => document.querySelector('.space .size')?.getBoundingClientRect().x !== x", arg=before["x"]
    )
    turned = length.bounding_box()
    assert abs(turned["x"] - before["x"]) > 5
    page.keyboard.press("0")
    page.get_by_role("button", name="Hide Long wall").focus()
    page.keyboard.press("Enter")
    expect(page.get_by_role("button", name="Show all")).to_be_visible()
    # Where the walls stood, a press now meets the divider behind them; with all shown again, it meets the wall.
    maker.part("Floor")
    page.get_by_role("button", name="front", exact=True).click()
    box = space.bounding_box()
    space.click(position={"x": box["width"] / 2, "y": box["height"] / 2})
    chosen = page.get_by_role("contentinfo", name="Parts").get_by_role("button", pressed=True)
    expect(chosen).to_contain_text("Divider lengthways")
    page.get_by_role("button", name="Show all").click()
    space.click(position={"x": box["width"] / 2, "y": box["height"] / 2})
    expect(chosen).to_contain_text("Long wall")


def test_a_large_tray_is_checked_in_the_background_and_can_be_stopped(maker, page, served):
    page.goto("/starters/tray")
    for label, text in (("Length", "640"), ("Width", "420")):
        maker.type(label, text)
    maker.type("Columns", "12", exact=False)
    maker.type("Rows", "12", exact=False)
    expect(page.get_by_text("27 parts, 13 joints")).to_be_visible()
    page.get_by_role("button", name="Make it").click()
    expect(maker.facts()).to_contain_text("27 parts")
    page.keyboard.press("d")
    page.get_by_role("button", name="Check the fit").click()
    progress = page.get_by_role("progressbar", name="Checking the fit")
    expect(progress).not_to_have_attribute("aria-valuenow", "0")
    # It is in the midst of it, and stays there for as long as the maker takes: the numbers are open to change.
    worker = served.hold("checks")
    try:
        expect(page.get_by_label("Height of the dividers")).to_be_editable()
        page.get_by_role("button", name="Stop").click()
        expect(page.get_by_role("button", name="Stopping")).to_be_visible()
    finally:
        os.kill(worker, signal.SIGCONT)
    expect(progress).to_have_count(0)
    expect(page.get_by_text("Stopped before all was checked.")).to_be_visible()
    expect(page.get_by_text("No part is in another's way.")).to_have_count(0)


def test_an_edge_is_butted_and_then_let_into_a_groove(maker, page):
    maker.open("join")
    page.get_by_role("button", name="Butt or housing").click()
    page.get_by_role("button", name="bottom edge of Divider lengthways").press("Enter")
    expect(page.get_by_text("Pick the part whose face it stands on.")).to_be_visible()
    page.get_by_role("button", name="Face of Floor").press("Enter")
    groove = page.get_by_role("row", name="edge in its groove")
    expect(chosen(page, "It is")).to_contain_text("butted on the face")
    expect(groove).to_have_count(0)
    choose(page.get_by_label("It is", exact=True), "let into a groove")
    expect(page.get_by_label("Groove depth")).to_have_value("thickness/3")
    # By hand: acrylic of 3.9 with the clearance of its sliding fit; a groove as deep as the floor is thick cannot be.
    expect(groove).to_have_count(1)
    expect(groove.get_by_role("cell").nth(2)).to_have_text("Divider lengthways")
    maker.type("Groove depth", "thickness")
    expect(maker.note("leaves no floor")).to_be_visible()
    page.get_by_role("button", name="Make it 1.02 mm deep").click()
    expect(maker.note("leaves no floor")).to_have_count(0)
    expect(groove).to_have_count(1)


def test_a_size_typed_on_the_drawing_is_seen_at_once_in_the_dry_fit_beside_it(maker, page):
    maker.open("shape")
    maker.part("Floor")
    page.keyboard.press("b")
    space = page.get_by_role("group", name="The parts put together")
    expect(space.get_by_text("240 mm", exact=True)).to_be_visible()
    drawing = page.get_by_role("group", name="Shown")
    expect(drawing.get_by_role("button", name="Both")).to_have_attribute("aria-pressed", "true")
    # The floor's width is the tray's length, and so the walls' too.
    maker.type("tray_length", "210")
    expect(space.get_by_text("210 mm", exact=True)).to_be_visible()
    # By hand: inside, two walls of birch 3.07 less.
    expect(space.get_by_text(f"{210 - 2 * 3.07:.2f} mm", exact=True)).to_be_visible()
    # It stays beside the drawing at the next station.
    maker.station("Join")
    expect(space.get_by_text("210 mm", exact=True)).to_be_visible()
    page.get_by_role("group", name="Shown").get_by_role("button", name="Drawing").click()
    expect(space).to_have_count(0)


def test_numbers_of_a_starter_are_typed_in_any_order(maker, page):
    page.goto("/starters/tray")
    maker.type("Height of the dividers", "32")
    low = maker.type("Height", "1 1/4 in")
    expect(page.get_by_role("alert")).to_contain_text("Height of the dividers: 32 mm is more than")
    # It waits in its field; another number that has nothing to do with it is taken meanwhile.
    maker.type("Length", "210")
    space = page.get_by_role("group", name="What it would make")
    expect(space.get_by_text("210 mm", exact=True)).to_be_visible()
    expect(low).to_have_value("1 1/4 in")
    maker.type("Height of the dividers", "20")
    expect(page.get_by_role("alert")).to_have_count(0)
    expect(space.get_by_text("31.75 mm", exact=True)).to_be_visible()


def test_a_number_that_was_not_typed_goes_with_the_one_it_follows(maker, page):
    page.goto("/starters/tray")
    maker.type("Height", "60")
    expect(page.get_by_label("Height of the dividers", exact=True)).to_have_value("2/3 * 60")
    page.get_by_role("button", name="Make it").click()
    page.get_by_role("button", name="Tray with compartments, from a starter").wait_for()
    maker.type("Height", "1 1/4 in", nth=0)
    expect(page.get_by_label("Height of the dividers", exact=True)).to_have_value("2/3 * (1 1/4 in)")
