"""Parts drawn as a maker draws them: round a reference, by hand, at exact places, in versions and variants."""

import io
import math
import re
from itertools import pairwise

import pytest
from ezdxf import recover
from leannotch_core.drawings.svg import read_svg
from leannotch_core.proof.sweep import prove
from PIL import Image
from playwright.sync_api import expect

from .conftest import choose, fold

LOGGER = {
    "kind": "brought",
    "width": "60",
    "height": "40",
    "rings": [
        [{"x": 0, "y": 0}, {"x": 60, "y": 0}, {"x": 60, "y": 40}, {"x": 0, "y": 40}],
        [{"x": 4, "y": 5.5, "bulge": -1}, {"x": 7, "y": 5.5, "bulge": -1}],
        [{"x": 53, "y": 34.5, "bulge": -1}, {"x": 56, "y": 34.5, "bulge": -1}],
        [{"x": 20, "y": 10}, {"x": 20, "y": 20}, {"x": 35, "y": 20}, {"x": 35, "y": 10}],
    ],
}


def begun(maker, page, served, name, width="100", height="60"):
    """A project of one part, with its id."""
    slug = served.post("/api/projects", {"name": name})["slug"]
    maker.open("shape", slug)
    page.get_by_role("button", name="Add a part").click()
    expect(page.get_by_label("Width", exact=True)).to_be_visible()
    for label, size in (("Width", width), ("Height", height)):
        maker.type(label, size)
        expect(page.get_by_label(label, exact=True)).to_have_value(size)
    return slug


def shown(served, slug):
    return served.get(f"/api/projects/{slug}")


def handed_over(maker, page, name):
    """The file of sheet 1, once the project is laid out."""
    maker.station("Lay out")
    choose(page.get_by_label("Look for"), "2 seconds")
    page.get_by_role("region", name="Layout").get_by_role("button", name=re.compile("Lay out")).first.click()
    expect(page.get_by_text(re.compile("parts moved"))).to_be_visible(timeout=20_000)
    maker.station("Hand over")
    with page.expect_download() as waiting:
        page.get_by_role("button", name=name).click()
    return waiting.value.path()


def test_a_cover_is_drawn_round_a_reference_with_marks_by_copy_and_paste(maker, page, served):
    slug = begun(maker, page, served, "Cover")
    project = shown(served, slug)
    part = project["document"]["parts"][0]
    logger = {
        "id": "logger",
        "name": "logger",
        "hole": LOGGER,
        "origin": "middle",
        "x": "0",
        "y": "5",
        "does": "reference",
    }
    command = {"do": "put part", "part": part | {"cutouts": [logger | {"does": "reference"}]}}
    served.post(f"/api/projects/{slug}/edit", {"version": project["version"], "command": command})
    page.reload()
    fold(page, "To design round")
    page.get_by_role("region", name="Part").get_by_role("button", name="logger", exact=True).first.click()
    maker.type("Its holes larger by", "0.3")
    page.get_by_role("button", name="Cut its holes into the part").click()
    expect(page.get_by_role("button", name="round hole 2", exact=True).first).to_be_visible()
    page.keyboard.press("Escape")
    maker.put("Text")
    choose(page.get_by_label("This shape"), "is scored along its edge")
    choose(page.get_by_label("Font"), "single line")
    maker.type("Text", "A")
    maker.type("Cap height", "4")
    maker.type("Distance across", "-40")
    maker.type("Distance up", "-24")
    text = page.get_by_role("button", name="text “A” 5", exact=True)
    text.first.focus()
    page.keyboard.press("Control+c")
    for count in range(6, 9):
        page.keyboard.press("Control+v")
        expect(page.get_by_role("heading", name=f"text “A” {count}, of Part 1")).to_be_visible()
    listed = page.get_by_role("region", name="Part")
    for number in (5, 6, 7):
        listed.get_by_role("button", name=f"text “A” {number}", exact=True).click(modifiers=["Shift"])
    expect(page.get_by_role("heading", name="4 shapes chosen")).to_be_visible()
    fold(page, "Align and space")
    page.get_by_role("button", name="bottoms").click()
    spaced = maker.type("or by gaps across of", "8")
    # What is typed there is done once, and then offered anew.
    expect(spaced).to_have_value("0")
    space = recover.readfile(handed_over(maker, page, "as DXF"))[0].modelspace()
    circles = sorted(e.dxf.radius for e in space.query('CIRCLE[layer=="cut"]'))
    # Holes of 3 mm, 0.3 larger, drawn smaller by half a kerf of 0.16 all round.
    assert circles == pytest.approx([1.5 + 0.15 - 0.08] * 2)
    assert len(space.query('LWPOLYLINE[layer=="cut"]')) == 2
    assert not [e for e in space if e.dxf.layer not in ("cut", "score", "labels", "notes")]
    texts = shown(served, slug)["parts"][0]["cutouts"][-4:]
    boxes = sorted((c["box"] for c in texts), key=lambda box: box["left"])
    assert [b["left"] - a["right"] for a, b in pairwise(boxes)] == pytest.approx([8] * 3, abs=0.01)
    assert len({round(box["bottom"], 3) for box in boxes}) == 1


def test_a_gap_too_narrow_for_the_stock_is_marked_and_spread(maker, page, served):
    slug = served.post("/api/projects/felt-pennant/duplicate", {})["slug"]
    maker.open("shape", slug)
    page.get_by_role("region", name="Part").get_by_role("button", name="motif 20", exact=True).click()
    expect(page.get_by_label("Gap to the left")).to_be_visible()
    fold(page, "Move and turn")
    maker.type("Move across by", "-2.2")
    note = maker.note(re.compile("a web of .* is left; this stock needs 3 mm"))
    expect(note).to_be_visible()
    part = shown(served, slug)["parts"][0]
    assert part["narrow"] and part["narrow"][0]["gap"] < 3
    page.get_by_role("complementary", name="Margin notes").get_by_role("button", name="Spread").click()
    expect(note).to_have_count(0)
    after = shown(served, slug)["parts"][0]
    assert not after["narrow"] and len(after["cutouts"]) == 36
    # The border holds them in still.
    assert not [f for f in shown(served, slug)["findings"] if f["code"] == "crosses-border"]


def drawn(page, places):
    """A stroke over the drawing, in shares of its box."""
    box = page.get_by_role("group", name=re.compile("Drawing of")).bounding_box()
    spots = [(box["x"] + box["width"] * x, box["y"] + box["height"] * y) for x, y in places]
    page.mouse.move(*spots[0])
    page.mouse.down()
    for spot in spots[1:]:
        page.mouse.move(*spot)
    page.mouse.up()


def test_an_outline_is_drawn_by_hand_and_made_flat_below(maker, page, served):
    slug = begun(maker, page, served, "Gull")
    page.get_by_role("button", name="Draw it by hand").click()
    around = [math.tau * i / 90 for i in range(91)]
    asked = []
    page.on("request", lambda request: asked.append(request) if request.url.endswith("/api/stroke") else None)
    drawn(page, [(0.5 + 0.24 * math.cos(a) * (1 + 0.2 * math.cos(2 * a)), 0.5 - 0.2 * math.sin(a)) for a in around])
    told = page.get_by_role("status").filter(has_text="points")
    expect(told).to_be_visible()
    count = int(told.inner_text().split()[0])
    assert 4 < count < 40
    # While it is being drawn nothing is asked for.
    assert len(asked) == 1
    page.get_by_role("slider", name="Smoothing").press("End")
    expect(told).not_to_contain_text(f"{count} points")
    assert int(told.inner_text().split()[0]) < count
    page.get_by_role("button", name="Take it").click()
    expect(page.get_by_role("button", name="Point 1 of the curve")).to_be_visible()
    part = shown(served, slug)["parts"][0]
    page.get_by_role("button", name="Straight from here to here").click()
    box = page.get_by_role("group", name=re.compile("Drawing of")).bounding_box()
    for share in (0.4, 0.6):
        page.mouse.click(box["x"] + box["width"] * share, box["y"] + box["height"] * 0.85)
    expect(page.get_by_text("Press where the straight line begins")).to_have_count(0)
    flat = shown(served, slug)["parts"][0]
    assert flat["area"] < part["area"]
    pieces = prove(read_svg(handed_over(maker, page, "as SVG").read_bytes()), 0.16).pieces
    [gull] = [piece for piece in pieces if piece.kind == "part"]
    # As large as it is; what was typed of a curve is the box that it was drawn in.
    left, bottom, right, top = (flat["bounds"][side] for side in ("left", "bottom", "right", "top"))
    assert sorted((gull.width, gull.height)) == pytest.approx(sorted((right - left, top - bottom)), abs=0.02)


def test_bars_are_placed_exactly_one_of_them_turned_with_rounded_inner_corners(maker, page, served):
    slug = begun(maker, page, served, "Staff", "160", "20")
    maker.put("Rectangle")
    choose(page.get_by_label("This shape"), "is added to the part")
    maker.type("Width", "width", nth=1)
    maker.type("Height", "height", nth=1)
    maker.type("Corner radius", "0")
    fold(page, "Turned, repeated, called")
    maker.type("Turned by (degrees)", "90/2")
    expect(page.get_by_role("heading", name="rectangle 1, of Part 1")).to_be_visible()
    page.keyboard.press("Escape")
    maker.put("Round hole")
    expect(page.get_by_role("heading", name="round hole 2, of Part 1")).to_be_visible()
    choose(page.get_by_label("This shape"), "is sunk as a pocket")
    maker.type("Depth of the pocket", "thickness/3")
    maker.type("Diameter", "min(height; 15 mm)")
    expect(page.get_by_role("region", name="Part", exact=True).get_by_text("= 15 mm")).to_be_visible()
    page.keyboard.press("Escape")
    fold(page, "Corners of the outline")
    page.get_by_role("button", name="Choose corners on the drawing").click()
    inner = page.get_by_role("button", name=re.compile(r"^Corner \d+, at (55|75|84|104)\."))
    expect(inner).to_have_count(4)
    # Above the level bar and right of the turned one, where they meet in 45 degrees.
    page.get_by_role("button", name=re.compile(r"^Corner \d+, at 104\.")).press("Enter")
    maker.type("Size of corner 1", "400")
    expect(page.get_by_role("alert")).to_contain_text("the largest that fits is")
    page.get_by_label("Size of corner 1").press("Escape")
    maker.type("Size of corner 1", "6")
    page.get_by_role("button", name="Done with corners").click()
    expect(page.get_by_role("button", name="Choose corners on the drawing")).to_be_visible()
    part = shown(served, slug)["parts"][0]
    # Two bars of 160 x 20 that share a rhombus of 20 x 20 / sin 45, and a corner of 45 degrees filled by a round of 6.
    bars = 2 * 160 * 20 - 400 / math.sin(math.radians(45))
    filled = 36 * (math.tan(math.radians(67.5)) - math.radians(67.5))
    assert part["area"] == pytest.approx(bars + filled, abs=0.01)
    assert part["pockets"]


def test_a_picture_lies_under_a_drawing_at_the_scale_of_a_known_length(maker, page, served, tmp_path):
    slug = begun(maker, page, served, "Traced")
    photo = tmp_path / "shell.png"
    data = io.BytesIO()
    Image.new("RGB", (300, 200), "tan").save(data, "PNG")
    photo.write_bytes(data.getvalue())
    fold(page, "To design round")
    with page.expect_file_chooser() as chooser:
        page.get_by_text("or a picture").click()
    chooser.value.set_files(photo)
    expect(page.get_by_label("Width", exact=True).nth(1)).to_have_value("100")
    page.get_by_role("button", name="Set to scale by a known length").click()
    box = page.get_by_role("group", name=re.compile("Drawing of")).bounding_box()
    for share in (0.4, 0.5):
        page.mouse.click(box["x"] + box["width"] * share, box["y"] + box["height"] * 0.5)
    before = page.get_by_label("They are apart").input_value()
    maker.type("They are apart", f"2*{before}")
    expect(page.get_by_label("Width", exact=True).nth(1)).to_have_value(re.compile("^(200|199.9|200.0)"))
    assert shown(served, slug)["parts"][0]["cutouts"][0]["does"] == "reference"


def test_versions_are_compared_and_a_variant_follows(maker, page, served):
    maker.open("shape")
    page.get_by_role("link", name="Versions").click()
    page.get_by_label("Name of the version").fill("as drawn")
    page.get_by_role("button", name="Keep it as it stands").click()
    expect(page.get_by_text("as drawn").first).to_be_visible()
    page.get_by_role("link", name="Back to it").click()
    maker.type("tray_length", "260")
    expect(page.get_by_label("tray_length", exact=True)).to_have_value("260")
    page.get_by_role("link", name="Versions").click()
    page.get_by_role("button", name="Compare with now: as drawn").click()
    expect(page.get_by_role("row", name="tray_length 240 mm 260 mm")).to_be_visible()
    expect(page.get_by_role("img", name="Floor, as it was and as it is")).to_be_visible()
    page.get_by_label("Name of the variant").fill("Of card")
    page.get_by_role("button", name="Begin a variant").click()
    expect(maker.facts()).to_contain_text("Of card (variant)")
    page.get_by_role("button", name="Thickness").click()
    maker.type("Readings", "5.1")
    expect(page.get_by_role("button", name="Thickness")).to_have_text("5.1 mm")
    page.keyboard.press("Escape")
    maker.station("Shape")
    maker.type("Name", "Bottom")
    expect(
        page.get_by_text("This is a variant of Sorting tray and follows its design: change the parts there")
    ).to_be_visible()
    maker.open("shape")
    maker.type("tray_width", "170")
    expect(page.get_by_label("tray_width", exact=True)).to_have_value("170")
    page.get_by_role("link", name="Versions").click()
    row = page.get_by_role("row", name=re.compile("Of card"))
    expect(row).to_contain_text("5.10")
    row.get_by_role("link", name="Of card").click()
    expect(page.get_by_label("tray_width", exact=True)).to_have_value("170")
    page.goto(f"/projects/{maker.tray}/versions")
    page.get_by_role("button", name="Go back to it: as drawn").click()
    expect(page.get_by_label("tray_length", exact=True)).to_have_value("240")


def test_several_parts_are_set_at_once_under_a_heading_and_found_by_name(maker, page, served):
    maker.open("shape")
    rail = page.get_by_role("contentinfo", name="Parts")
    maker.part("Long wall")
    rail.get_by_role("button", name=re.compile("End wall")).click(modifiers=["Control"])
    panel = page.get_by_role("region", name="All chosen parts")
    expect(panel).to_contain_text("2 parts chosen")
    panel.get_by_label("How many of each").fill("3")
    panel.get_by_label("Heading").fill("walls")
    panel.get_by_label("Heading").press("Enter")
    expect(rail.get_by_role("button", name="walls, 2")).to_be_visible()
    expect(maker.facts()).to_contain_text("10 parts")
    panel.get_by_role("button", name="Duplicate").click()
    expect(rail.get_by_role("button", name="walls, 4")).to_be_visible()
    rail.get_by_role("button", name="walls, 4").click()
    expect(rail.get_by_role("button", name=re.compile("Long wall"))).to_have_count(0)


def test_a_size_offers_names_and_a_name_tells_its_uses(maker, page, served):
    maker.open("shape")
    field = page.get_by_label("Width", exact=True)
    field.click()
    field.fill("")
    field.press_sequentially("tray_w")
    offers = page.get_by_role("list", name="Names")
    expect(offers).to_contain_text("tray_width")
    field.press("ArrowDown")
    field.press("Enter")
    expect(field).to_have_value("tray_width")
    field.press("Escape")
    page.get_by_role("button", name="More of tray_length").click()
    expect(page.get_by_text("Used by Floor width")).to_be_visible()
    maker.type("Called", "long", nth=0)
    expect(page.get_by_label("Width", exact=True)).to_have_value("long")
    page.get_by_role("button", name="Remove long").click()
    expect(page.get_by_text("“long” is used by Floor width")).to_be_visible()


LIES_STILL = """async (outline) => {
  const lies = () => Object.values(outline.getBoundingClientRect().toJSON())
  const frame = () => new Promise(requestAnimationFrame)
  for (let same = 0, before = []; same < 5; ) {
    const now = lies()
    same = Math.abs(now[2] / now[3] - 1.6) < 0.01 && now.every((at, index) => at === before[index]) ? same + 1 : 0
    before = now
    await frame()
  }
}"""


def at(page, x, y):
    """A place of a part of 160 x 100 on the screen (mm), by the numbers that stand on its drawing."""
    drawing = page.get_by_role("group", name=re.compile("Drawing of"))
    outline = drawing.locator("path.intent")
    # Its sizes have come back, and it lies still: a line of words above it moves it.
    outline.evaluate(LIES_STILL)
    box, part = drawing.bounding_box(), outline.bounding_box()
    scale = part["width"] / 160
    assert box["x"] < part["x"]
    return part["x"] + x * scale, part["y"] + part["height"] - y * scale


def test_shapes_are_put_where_one_points_as_large_as_they_are_drawn(maker, page, served):
    slug = begun(maker, page, served, "Panel", "160", "100")
    # By its letter: a press puts it there in its usual size, in whole millimetres from the nearest corner.
    page.get_by_label("Height", exact=True).blur()
    page.keyboard.press("o")
    expect(page.get_by_text("Press where it goes, or drag its size.")).to_be_visible()
    page.mouse.move(*at(page, 30.2, 79.8))
    expect(page.get_by_text("30 mm from the left")).to_be_visible()
    expect(page.get_by_text("20 mm from the top")).to_be_visible()
    page.mouse.click(*at(page, 30.2, 79.8))
    expect(page.get_by_role("heading", name="round hole 1, of Part 1")).to_be_visible()
    expect(page.get_by_label("Diameter", exact=True)).to_have_value("10")
    expect(page.get_by_label("Distance across")).to_have_value("30")
    expect(page.get_by_label("Distance up")).to_have_value("20")
    expect(page.get_by_text("Its middle from the top left of the part")).to_be_visible()

    # Its size is drawn by dragging on.
    page.get_by_role("button", name="Rectangle", exact=True).click()
    page.mouse.move(*at(page, 100.1, 20.1))
    page.mouse.down()
    page.mouse.move(*at(page, 139.8, 43.9), steps=4)
    expect(page.get_by_text("40 mm × 24 mm")).to_be_visible()
    page.mouse.up()
    expect(page.get_by_role("heading", name="rectangle 2, of Part 1")).to_be_visible()
    expect(page.get_by_label("Distance across")).to_have_value("40")
    box = shown(served, slug)["parts"][0]["cutouts"][1]["box"]
    assert [round(box[side], 4) for side in ("left", "bottom", "right", "top")] == [100, 20, 140, 44]

    # What lies in line with another shape stays in line with it.
    page.get_by_role("button", name="Round hole", exact=True).click()
    page.mouse.move(*at(page, 30.3, 40))
    expect(page.get_by_text("in line with round hole 1")).to_be_visible()
    page.mouse.click(*at(page, 30.3, 40))
    expect(page.get_by_role("heading", name="round hole 3, of Part 1")).to_be_visible()
    document = shown(served, slug)["document"]["parts"][0]["cutouts"]
    assert document[2]["x_of"] == document[0]["id"]

    # Escape puts it away, and a press chooses again.
    page.keyboard.press("p")
    page.keyboard.press("Escape")
    expect(page.get_by_text("Press where it goes, or drag its size.")).to_have_count(0)
    space = recover.readfile(handed_over(maker, page, "as DXF"))[0].modelspace()
    assert sorted(round(e.dxf.radius, 3) for e in space.query('CIRCLE[layer=="cut"]')) == [4.92, 4.92]


def boxes(served, slug, called):
    """The boxes of shapes by the beginning of what they are called: left, bottom, right and top (mm)."""
    found = [one["box"] for one in shown(served, slug)["parts"][0]["cutouts"] if one["called"].startswith(called)]
    return [[round(box[side], 4) for side in ("left", "bottom", "right", "top")] for box in found]


def dragged(page, x, y, across, up):
    """From a place on the screen so far (px)."""
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x + across, y - up, steps=4)


def test_a_shape_is_made_larger_copied_and_written_where_it_lies(maker, page, served):
    slug = begun(maker, page, served, "Panel", "160", "100")
    maker.put("Rectangle")
    expect(page.get_by_role("heading", name="rectangle 1, of Part 1")).to_be_visible()
    scale = (at(page, 160, 0)[0] - at(page, 0, 0)[0]) / 160

    # By its numbers, and by its corner, while its middle stays.
    maker.type("Height of rectangle 1", "24")
    expect(page.get_by_label("Height", exact=True).nth(1)).to_have_value("24")
    corner = page.locator("rect.grip").bounding_box()
    dragged(page, corner["x"] + 5, corner["y"] + 5, 5 * scale, -2 * scale)
    expect(page.get_by_text("40 mm × 20 mm")).to_be_visible()
    page.mouse.up()
    expect(page.get_by_label("Width of rectangle 1")).to_have_value("40")
    expect(page.get_by_label("Height of rectangle 1")).to_have_value("20")
    assert boxes(served, slug, "rectangle") == [[60, 40, 100, 60]]

    # With Ctrl what is dragged is a copy, and what it is a copy of stays.
    page.keyboard.down("Control")
    dragged(page, *at(page, 80, 50), 30 * scale, 27 * scale)
    page.mouse.up()
    page.keyboard.up("Control")
    expect(page.get_by_role("heading", name="rectangle 2, of Part 1")).to_be_visible()
    assert boxes(served, slug, "rectangle") == [[60, 40, 100, 60], [90, 67, 130, 87]]
    page.keyboard.press("Delete")
    expect(page.get_by_role("heading", name="rectangle 2, of Part 1")).to_have_count(0)

    # Words are typed where they stand.
    page.keyboard.press("t")
    page.mouse.click(*at(page, 60, 80))
    words = page.get_by_label("Words of text “TEXT” 2")
    words.fill("SHORE")
    words.press("Enter")
    expect(page.get_by_role("heading", name="text “SHORE” 2, of Part 1")).to_be_visible()


def test_a_shape_is_turned_and_its_repeat_spaced_where_it_lies(maker, page, served):
    slug = begun(maker, page, served, "Panel", "160", "100")
    maker.put("Rectangle")
    expect(page.get_by_role("heading", name="rectangle 1, of Part 1")).to_be_visible()
    scale = (at(page, 160, 0)[0] - at(page, 0, 0)[0]) / 160

    # By its knob, a quarter of a turn to the left: what was 30 x 20 stands 20 x 30.
    knob = page.locator("circle.knob").bounding_box()
    above = at(page, 80, 50)[1] - (knob["y"] + knob["height"] / 2)
    dragged(page, knob["x"] + knob["width"] / 2, knob["y"] + knob["height"] / 2, -above, -above + 2)
    expect(page.get_by_text("90°", exact=True)).to_be_visible()
    page.mouse.up()
    expect(page.get_by_label("Turn of rectangle 1")).to_have_value("90")
    (upright,) = boxes(served, slug, "rectangle")
    maker.type("Turn of rectangle 1", "0")
    expect(page.get_by_label("Turned by (degrees)")).to_have_value("0")
    (flat,) = boxes(served, slug, "rectangle")
    assert upright[2] - upright[0] == flat[3] - flat[1] and upright[3] - upright[1] == flat[2] - flat[0]

    # Steps are typed between the first two, or drawn by any of them, and those left out stay so.
    maker.type("Width of rectangle 1", "10")
    maker.type("Distance across", "-60")
    expect(page.get_by_label("Distance across")).to_have_value("-60")
    fold(page, "Turned, repeated, called")
    maker.type("In a row", "4")
    maker.type("Across: step of rectangle 1", "20")
    expect(page.get_by_label("Step across")).to_have_value("20")
    page.get_by_role("button", name="Place 2 of rectangle 1").click()
    expect(page.get_by_role("button", name="Place 2 of rectangle 1, left out")).to_be_visible()
    last = page.get_by_role("button", name="Place 4 of rectangle 1").bounding_box()
    dragged(page, last["x"] + last["width"] / 2, last["y"] + last["height"] / 2, 31 * scale, 0)
    expect(page.get_by_text("30 mm", exact=True)).to_be_visible()
    page.mouse.up()
    expect(page.get_by_label("Across: step of rectangle 1")).to_have_value("30")
    expect(page.get_by_role("button", name="Place 2 of rectangle 1, left out")).to_be_visible()
    assert boxes(served, slug, "rectangle") == [[15, 40, 115, 60]]

    # Round a point the step is an angle.
    maker.type("Distance across", "-30")
    choose(page.get_by_label("Repeated", exact=True), "round a point")
    maker.type("Round: step of rectangle 1", "45")
    expect(page.get_by_label("Angle step (0: all round)")).to_have_value("45")
    third = page.get_by_role("button", name="Place 3 of rectangle 1").bounding_box()
    dragged(page, third["x"] + third["width"] / 2, third["y"] + third["height"] / 2, -21.2 * scale, 8.8 * scale)
    expect(page.get_by_text("22°", exact=True).or_(page.get_by_text("23°", exact=True))).to_be_visible()
    page.mouse.up()
    expect(page.get_by_label("Round: step of rectangle 1")).to_have_value(re.compile("^2[23]$"))
