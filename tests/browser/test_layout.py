"""Laying out by hand and by search, as a maker does it."""

import json
import re

import pytest
from leannotch_core.evaluate import evaluate
from leannotch_core.layout.sheets import check_layout, placed
from leannotch_core.project.project import read_project
from playwright.sync_api import expect
from shapely import box

from .conftest import choose


def stored(served, slug):
    return read_project(served.get_bytes(f"/api/projects/{slug}/file"))


def lying(document, name):
    part = next(part for part in document.parts if part.name == name)
    placement = next(p for p in document.layout.placements if p.part == part.id)
    return placed(evaluate(document).parts[part.id].outline, placement)


def test_parts_go_round_a_clip_on_a_sheet_that_is_there_once(maker, page, served, tray):
    maker.open("lay-out")
    # The small sheet is not at hand any more; of the large one there is one, with a clip on a corner.
    page.get_by_role("button", name="400 × 300").click()
    maker.type("At hand", "0")
    expect(page.get_by_role("button", name="400 × 300, 0 at hand")).to_be_visible()
    page.get_by_role("button", name="400 × 300, 0 at hand").click()
    page.get_by_role("button", name="600 × 400").click()
    size = page.get_by_role("group", name="Sheet size 600 × 400")
    size.get_by_label("At hand").fill("1")
    size.get_by_label("At hand").press("Enter")
    size = page.get_by_role("group", name="Sheet size 600 × 400, 1 at hand")
    size.get_by_role("button", name="Add a clip").click()
    clip = size.get_by_role("group", name="a clip 1")
    clip.get_by_label("Width").fill("2*30")
    clip.get_by_label("Width").press("Enter")
    choose(page.get_by_label("Look for"), "2 seconds")
    page.get_by_role("button", name="Lay out again").click()
    # What it takes stands beside what was taken before.
    takes = page.get_by_text("Takes 1 sheet of 600 × 400 mm and 1 of 300 × 200 mm instead of 1 sheet of 400 × 300 mm")
    expect(takes).to_be_visible()
    expect(page.get_by_text(re.compile("parts moved|Nothing moved"))).to_be_visible()
    document = stored(served, tray)
    assert check_layout(document, evaluate(document)).findings == []
    held = box(0, 0, 60, 20).buffer(5 - 1e-6)
    for part in ("Floor", "Long wall", "End wall"):
        assert not lying(document, part).intersects(held)
    # And the largest piece that is left is drawn with its size.
    expect(page.get_by_text(re.compile(r"^\d.* × .* mm left whole$"))).to_be_visible()


def test_a_dragged_part_is_marked_on_another_and_keeps_to_the_gap_beside_it(maker, page, served, tray):
    maker.open("lay-out")
    floor = page.get_by_role("button", name="Floor on sheet 1")
    wall = page.get_by_role("button", name="End wall 2 on sheet 1")
    at, over = wall.bounding_box(), floor.bounding_box()
    x, y = at["x"] + at["width"] * 0.2, at["y"] + at["height"] * 0.8
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(over["x"] + over["width"] / 2, over["y"] + over["height"] / 2, steps=4)
    expect(floor).to_have_class(re.compile("faulty"))
    # To the right, 3 mm from where it was: there is nothing near, and it stays.
    page.mouse.move(x + 200, y, steps=4)
    expect(floor).not_to_have_class(re.compile("faulty"))
    # Back beside the other end wall, but for a few pixels.
    page.mouse.move(x + 3, y - 12, steps=4)
    with page.expect_response(lambda answer: answer.url.endswith("/edit")) as answer:
        page.mouse.up()
    assert json.loads(answer.value.body())["version"] > 0
    expect(page.get_by_text("End wall 2 · by hand")).to_be_visible()
    document = stored(served, tray)
    end = next(part for part in document.parts if part.name == "End wall")
    walls = sorted(
        (placed(evaluate(document).parts[end.id].outline, p) for p in document.layout.placements if p.part == end.id),
        key=lambda shape: shape.bounds[0],
    )
    assert walls[0].distance(walls[1]) == pytest.approx(2, abs=1e-3)
    assert check_layout(document, evaluate(document)).findings == []


def test_what_is_cut_already_stays_where_it_was_and_is_in_no_file(maker, page, served, tray):
    maker.open("lay-out")
    page.get_by_role("button", name="Floor on sheet 1").focus()
    page.get_by_text("Already cut: stays here, and is not cut again").click()
    expect(page.get_by_text("Floor · cut")).to_be_visible()
    choose(page.get_by_label("Look for"), "2 seconds")
    page.get_by_role("button", name="Lay out again").click()
    expect(page.get_by_text(re.compile("1 placed by hand or cut stayed"))).to_be_visible()
    drawing = served.get_bytes(f"/api/projects/{tray}/sheets/1.svg").decode()
    # Two long walls, and two end walls with a handle each; the floor is not among them.
    assert drawing.count("Z") == 6
