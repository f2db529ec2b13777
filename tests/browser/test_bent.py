"""Bent parts as a maker makes them: flanges typed and turned, seen flat and folded, their legs proved."""

import io
import re

import pytest
from ezdxf import recover
from playwright.sync_api import expect

from .conftest import choose, fold
from .test_shape_in_depth import begun, handed_over, shown


def number(page, label):
    return page.get_by_role("button", name=re.compile(f"^{label}"))


def test_a_rest_is_bent_from_one_strip_and_its_shelf_is_level_with_its_foot(maker, page, served):
    slug = begun(maker, page, served, "Rest", "40", "60")
    fold(page, "Bends and flanges")
    settings = page.get_by_role("region", name="Part")
    settings.get_by_role("button", name="Add a flange at the top").click()
    for name, length, angle in (("post", "110", "75"), ("shelf", "50", "75"), ("lip", "20", "90")):
        if name != "post":
            settings.get_by_role("button", name="+ Flange on its end").click()
        expect(page.get_by_label("Length of the flange")).to_have_value("30")
        maker.type("Length of the flange", length)
        maker.type("Turned from flat, degrees", angle)
        maker.type("Name of the bend", name)
        expect(settings.get_by_role("button", name=name, exact=True)).to_be_visible()
    settings.get_by_role("button", name="shelf", exact=True).click()
    choose(page.get_by_label("Bent", exact=True), "down, to the back")
    expect(page.get_by_text(re.compile("shelf, 75° down")).first).to_be_attached()
    part = shown(served, slug)["parts"][0]
    stock = next(iter(shown(served, slug)["stocks"].values()))
    taken = sum(bend["deduction"] for bend in part["bends"])
    assert part["bounds"]["top"] == pytest.approx(60 + 110 + 50 + 20 - taken)
    page.get_by_role("button", name="Folded").click()
    for face in ("the leg of shelf", "its foot"):
        page.get_by_role("button", name=face, exact=True).click()
    expect(page.get_by_role("status").filter(has_text="level with one another, looking the same way")).to_be_visible()
    expect(page.get_by_text(re.compile("Bent in this order: post, shelf, lip|Bent in this order:"))).to_be_visible()
    # Turned where it stands, the shelf is level no more; typed back, it is.
    number(page, "Angle of shelf").click()
    typed = page.get_by_role("textbox", name="Angle of shelf")
    typed.fill("70")
    typed.press("Enter")
    expect(page.get_by_role("status").filter(has_text="5°, not level")).to_be_visible()
    handle = page.get_by_role("slider", name="Turn shelf")
    handle.focus()
    handle.press("ArrowRight")
    expect(page.get_by_role("status").filter(has_text="4°, not level")).to_be_visible()
    for angle in (72, 73, 74, 75):
        handle.press("ArrowRight")
        expect(number(page, "Angle of shelf")).to_have_text(f"{angle}°")
    expect(page.get_by_role("status").filter(has_text="level with one another")).to_be_visible()
    # What was typed stays when the sheet is another one.
    assert [bend["far"] for bend in shown(served, slug)["parts"][0]["bends"]] == pytest.approx([110, 50, 20])
    assert stock["bending"]["assumed"]
    maker.station("Hand over")
    space = recover.read(io.BytesIO(handed_over(maker, page, "as DXF").read_bytes()))[0].modelspace()
    assert len(space.query('LINE[layer=="bend-up"]') or space.query('LWPOLYLINE[layer=="bend-up"]')) == 2
    assert len(space.query('*[layer=="bend-down"]')) == 1
    maker.station("Prove")
    expect(page.get_by_text(re.compile("Part 1 1, post: 110 mm of 110 mm"))).to_be_visible()


def test_a_flange_is_dragged_in_space(maker, page, served):
    slug = begun(maker, page, served, "Arm", "60", "80")
    fold(page, "Bends and flanges")
    page.get_by_role("button", name="Add a flange at the top").click()
    expect(page.get_by_label("Length of the flange")).to_have_value("30")
    page.get_by_role("button", name="Folded").click()
    handle = page.get_by_role("slider", name="Turn flange 1")
    box = handle.bounding_box()
    page.mouse.move(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    page.mouse.down()
    page.mouse.move(box["x"] + 40, box["y"] + 30, steps=4)
    page.mouse.up()
    expect(number(page, "Angle of flange 1")).not_to_have_text("90°")
    angle = float(number(page, "Angle of flange 1").inner_text().rstrip("°"))
    page.get_by_role("button", name="Flat", exact=True).click()
    expect(page.get_by_text(re.compile(f"^(flange 1, )?{angle:g}° up")).first).to_be_attached()
    [bend] = shown(served, slug)["parts"][0]["bends"]
    assert bend["angle"] == angle and 0 <= angle <= 170
    page.get_by_role("button", name="Folded").click()
    page.get_by_role("button", name="Undo").click()
    expect(number(page, "Angle of flange 1")).to_have_text("90°")


def test_a_leg_is_typed_on_the_folded_view_and_a_hole_too_near_is_moved_clear(maker, page, served):
    slug = begun(maker, page, served, "Clip", "50", "80")
    fold(page, "Bends and flanges")
    page.get_by_role("button", name="+ Bend line").click()
    expect(page.get_by_text(re.compile("^(bend 1, )?90° up")).first).to_be_attached()
    page.get_by_role("button", name="Folded").click()
    number(page, "Leg before bend 1").click()
    typed = page.get_by_role("textbox", name="Leg before bend 1")
    typed.fill("35")
    typed.press("Enter")
    expect(number(page, "Leg before bend 1")).to_have_text("35 mm")
    [bend] = shown(served, slug)["parts"][0]["bends"]
    # What is left of the flat sheet is the other leg: both less the deduction are 80.
    assert bend["near"] == pytest.approx(35)
    assert bend["far"] == pytest.approx(80 - 35 + bend["deduction"])
    page.get_by_role("button", name="Flat", exact=True).click()
    maker.put("Round hole")
    # It begins in the middle of the part, and there the bend is.
    note = maker.note(re.compile("bend 1 runs over a cut-out"))
    expect(note).to_be_visible()
    page.get_by_role("complementary", name="Margin notes").get_by_role(
        "button", name="Move it clear of the bend"
    ).click()
    expect(note).to_have_count(0)
    [hole] = shown(served, slug)["parts"][0]["cutouts"]
    thickness = shown(served, slug)["parts"][0]["thickness"]
    bent = bend["y1"] + bend["allowance"] / 2
    assert hole["box"]["bottom"] - bent == pytest.approx(2 * thickness + 0.01, abs=1e-3)


def test_a_short_flange_and_a_strip_that_was_measured(maker, page, served):
    slug = begun(maker, page, served, "Clip", "50", "50")
    fold(page, "Bends and flanges")
    page.get_by_role("button", name="Add a flange at the right").click()
    expect(page.get_by_label("Length of the flange")).to_have_value("30")
    maker.type("Length of the flange", "9")
    note = maker.note(re.compile("leaves a leg of 9 mm outside; the die of this stock takes"))
    expect(note).to_be_visible()
    page.get_by_role("complementary", name="Margin notes").get_by_role("button", name=re.compile("^Make it")).click()
    expect(note).to_have_count(0)
    assert shown(served, slug)["parts"][0]["bends"][0]["far"] > 15
    maker.station("Measure")
    fold(page, "How it is bent")
    choose(page.get_by_label("K factor"), "from a strip that was bent")
    maker.type("Leg 2, outside", "56")
    expect(page.get_by_text(re.compile(r"has K 0\.\d+"))).to_be_visible()
