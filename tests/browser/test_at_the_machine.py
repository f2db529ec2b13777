"""From a laid-out tray to the machine and back: prepared, sent, cut, gathered, and the next job on the offcut."""

import csv
import io
import re

import pytest
from leannotch_core.drawings.gcode import read_gcode
from leannotch_core.geometry.segment import cross
from playwright.sync_api import expect

from .conftest import choose, fold
from .test_first_path import download


def row(page, name):
    return page.get_by_role("list", name="Running order").get_by_role("button", name=re.compile(f"^{name}"))


def seconds(text):
    """A time as it is told: 3 min 48 s."""
    units = {"h": 3600, "min": 60, "s": 1}
    return sum(float(count) * units[unit] for count, unit in re.findall(r"([\d.]+) (h|min|s)\b", text))


def on_line(line, share):
    """Where a place of a line is on the screen."""
    return line.evaluate(
        """(line, share) => {
          const { x, y } = line.getPointAtLength(line.getTotalLength() * share)
          const to = line.getScreenCTM()
          return [x * to.a + y * to.c + to.e, x * to.b + y * to.d + to.f]
        }""",
        share,
    )


def total(page):
    return page.locator(".whole strong")


def test_a_maker_takes_a_sheet_from_the_layout_through_the_machine_to_the_shelf(maker, page):
    maker.open("prepare")
    try_settings(maker, page)
    put_in_order(maker, page)
    hold(maker, page)
    told = seconds(total(page).inner_text())
    walk_and_run(page, told)
    cut_and_gather(maker, page)
    lay_on_the_offcut(maker, page)


def try_settings(maker, page):
    """The settings for the birch are seen, and another speed shows another time at once."""
    expect(row(page, "Score: Floor")).to_be_visible()
    before = seconds(total(page).inner_text())
    row(page, "Cut out: Floor").click()
    expect(page.get_by_role("heading", name="Cut in Birch ply 3 mm")).to_be_visible()
    expect(page.get_by_text("Tried on 2026-11-12.")).to_be_visible()
    maker.type("Speed, mm/s", "8")
    expect(page.get_by_text("Not tried: common practice to start with.")).to_be_visible()
    expect(row(page, "Cut out: Floor")).to_contain_text("8 mm/s")
    assert seconds(total(page).inner_text()) > 1.8 * before


def put_in_order(maker, page):
    """One part is marked otherwise; an order by hand that frees a part too early is told, with its mend."""
    row(page, "Cut inside: End wall").click()
    choose(page.get_by_label("These lines are"), "engraved")
    expect(row(page, "Engrave: End wall")).to_be_visible()
    order = page.get_by_role("list", name="Running order").get_by_role("button").all_inner_texts()
    assert order[0].startswith("Engrave") and order[-1].startswith("Cut out")
    rows = page.get_by_role("list", name="Running order").get_by_role("button")
    place = next(at for at, text in enumerate(order) if text.startswith("Cut out: End wall"))
    row(page, "Cut out: End wall").focus()
    for at in range(place - 1, -1, -1):
        page.keyboard.press("Alt+ArrowUp")
        expect(rows.nth(at)).to_contain_text("Cut out: End wall")
    expect(maker.note(re.compile("End wall .*its outline comes before its"))).not_to_have_count(0)
    page.get_by_role("button", name="Put it in the order of the rule").first.click()
    expect(maker.note(re.compile("comes before"))).to_have_count(0)
    # Engraved only, the wall would have no grip: it is cut again.
    row(page, "Engrave: End wall").click()
    choose(page.get_by_label("These lines are"), "cut through")
    expect(row(page, "Cut inside: End wall")).to_be_visible()


def hold(maker, page):
    """The sheet lies at 25, 60; tabs are spread, dragged, taken away and added, a start point moved, and all played."""
    choose(page.get_by_label("Held by"), "bottom left")
    maker.type("Lies at x", "25")
    maker.type("Lies at y", "60")
    expect(page.locator(".held")).to_be_visible()
    choose(page.get_by_label("Holding tabs", exact=True).and_(page.get_by_role("combobox")), "by count")
    expect(page.get_by_text("15 holding tabs on this sheet")).to_be_visible()
    page.get_by_role("group", name="A click on a line").get_by_role("button", name="Holding tabs").click()
    tabs = page.get_by_role("button", name="Holding tab of Floor 1")
    expect(tabs).to_have_count(3)
    tabs.first.focus()
    page.keyboard.press("Delete")
    expect(tabs).to_have_count(2)
    expect(page.get_by_text("Floor: tabs put by hand.")).to_be_visible()
    tab = tabs.first.bounding_box()
    page.mouse.move(tab["x"] + tab["width"] / 2, tab["y"] + tab["height"] / 2)
    page.mouse.down()
    page.mouse.move(tab["x"] + tab["width"] / 2 - 40, tab["y"] + tab["height"] / 2 - 1, steps=4)
    page.mouse.up()
    # Dragged along the edge it is still one of two; a click on a cut adds one, to both copies of that part.
    expect(tabs).to_have_count(2)
    page.mouse.click(*on_line(page.locator("path.line.op-cut").last, 0.3))
    expect(page.locator("rect.tab")).to_have_count(16)
    # A start point is moved to where the maker clicks on the cut.
    page.get_by_role("group", name="A click on a line").get_by_role("button", name="Start points").click()
    page.mouse.click(*on_line(page.locator("path.line.op-cut").last, 0.4))
    expect(page.get_by_text(re.compile("begun where you put it"))).to_be_visible()
    # The preview plays, and stops where it is dragged to.
    page.get_by_role("button", name="Play").click()
    expect(page.get_by_text(re.compile(r"^[1-9].* gone, "))).to_be_visible()
    page.get_by_role("button", name="Pause").click()


def walk_and_run(page, told):
    """Walked round, sent, and watched until it is done in the time that was told."""
    with page.expect_download() as download:
        page.get_by_role("link", name="its box").click()
    assert b"walk-round by its box" in download.value.path().read_bytes()
    assert not read_gcode(download.value.path().read_bytes()).lines
    page.get_by_role("button", name="Send to the simulated machine").click()
    page.wait_for_url("**/machine")
    panel = page.get_by_role("complementary", name="The machine's panel")
    panel.get_by_role("button", name="Home").click()
    panel.get_by_role("button", name="the box").click()
    expect(panel.get_by_text("Walked round.")).to_be_visible()
    choose(panel.get_by_label("Runs at"), "200 × real time")
    panel.get_by_role("button", name="Start").click()
    expect(page.get_by_role("status")).to_contain_text("done")
    gone = seconds(panel.locator("dd").nth(3).inner_text())
    assert abs(gone - told) <= 1
    expect(panel.get_by_role("alert")).to_have_count(0)


def cut_and_gather(maker, page):
    """Its parts are counted and gathered, and what remains lies on the shelf."""
    page.go_back()
    expect(row(page, "Score: Floor")).to_be_visible()
    page.get_by_role("button", name="This sheet was cut").click()
    expect(page.get_by_text("an offcut of it went to the shelf")).to_be_visible()
    expect(maker.facts()).to_contain_text("8 parts, 5 of them cut, on 1 sheet")
    maker.station("Hand over")
    page.get_by_role("button", name="Cut list", exact=True).click()
    page.get_by_label("Floor is gathered").check()
    expect(page.get_by_text("1 of 8 gathered.")).to_be_visible()
    page.get_by_role("button", name="Close this dialog").click()


def lay_on_the_offcut(maker, page):
    """The next job of the same birch lies on what remained."""
    maker.station("Lay out")
    page.get_by_role("button", name="Lay on it first").first.click()
    page.get_by_role("contentinfo", name="Parts").get_by_role("button", name="Add a part").click()
    page.wait_for_url("**/shape")
    maker.station("Lay out")
    choose(page.get_by_label("Look for"), "2 seconds")
    page.get_by_role("button", name="Lay out again", exact=True).click()
    expect(maker.facts()).to_contain_text("9 parts, 5 of them cut, on 2 sheets")
    expect(page.get_by_text(re.compile("parts moved"))).to_be_visible()
    expect(page.get_by_role("navigation", name="Sheets").get_by_role("button").first).to_contain_text("Birch ply 3 mm")
    page.goto("/shelf")
    expect(page.get_by_role("img", name=re.compile("Offcut of")).first).to_be_visible()


def test_edges_that_show_are_begun_on_the_waste_and_thin_webs_cool_at_a_price_that_is_told(maker, page):
    maker.open("prepare")
    choose(page.get_by_role("combobox", name="Cuts begin"), "away from corners")
    page.get_by_text("Thin webs cool: cuts beside them").click()
    expect(
        page.get_by_text(re.compile(r"more( time)?: \d+ of 4 neighbours follow within 8 s, 3 would else"))
    ).to_be_visible()
    fold(page, "Edges that show")
    page.get_by_text("Long wall", exact=True).last.click()
    expect(page.get_by_text("of 1 part", exact=True)).to_be_visible()
    maker.station("Hand over")
    lines = read_gcode(download(page, "as G-code").read_bytes()).lines
    leads = [line.segments[0] for line in lines if line.lead]
    # Both long walls, a millimetre long each; each begins in the middle of something straight.
    assert [lead.length for lead in leads] == pytest.approx([1, 1], abs=0.001)
    begun = [line.segments for line in lines if line.layer == "cut" and not line.lead]
    joined = [abs(cross(path[0].start_tangent, path[-1].end_tangent)) < 1e-4 for path in begun]
    assert all(joined), joined


def test_rates_are_typed_where_they_count_and_the_cost_follows(maker, page):
    maker.open("hand-over")
    page.get_by_role("button", name="What it costs").click()
    paper = page.get_by_role("dialog", name="What it costs")
    expect(paper.get_by_role("status")).to_contain_text("Nothing has a rate yet")
    paper.get_by_label("pieces, per piece").fill("cheap")
    paper.get_by_label("pieces, per piece").press("Enter")
    expect(paper.get_by_role("alert")).to_have_text("pieces: “cheap” is not an amount; type one like 12.50.")
    # Eight pieces at 0.75 are 6, whatever the machine takes.
    paper.get_by_label("pieces, per piece").fill("0,75")
    paper.get_by_label("pieces, per piece").press("Enter")
    expect(paper.get_by_role("status")).to_contain_text("6.00, without 3 things that have no rate")
    paper.get_by_label("Once for a project").fill("60")
    paper.get_by_label("Once for a project").press("Enter")
    paper.get_by_label("work by hand, per h").fill("20")
    paper.get_by_label("work by hand, per h").press("Enter")
    expect(paper.get_by_role("status")).to_contain_text("26.00, without 3")
    # What is done once is shared: 20 / 10 + 6, 20 / 100 + 6.
    expect(paper.get_by_text("10 sets 8.00 each")).to_be_visible()
    expect(paper.get_by_text("100 sets 6.20 each")).to_be_visible()
    with page.expect_download() as waiting:
        paper.get_by_role("link", name="All of it by sheet and part as CSV").click()
    rows = list(csv.DictReader(io.StringIO(waiting.value.path().read_text("utf-8-sig"))))
    assert sum(float(row["cost"] or 0) for row in rows) == pytest.approx(26)
    # The list that is printed has what one of each part costs by itself.
    page.keyboard.press("Escape")
    page.get_by_role("button", name="Cut list", exact=True).click()
    listed = page.get_by_role("dialog", name="Cut list")
    expect(listed.get_by_text("All of it costs 26.00 with what is done once")).to_be_visible()
    expect(listed.get_by_role("columnheader", name="costs")).to_be_visible()
    expect(listed.get_by_role("row").filter(has_text="Floor").first).to_contain_text("0.75")


def test_a_photographed_scrap_becomes_a_sheet_to_lay_on(maker, page, tmp_path):
    from PIL import Image

    path = tmp_path / "scrap.png"
    Image.new("RGB", (900, 600), (200, 190, 170)).save(path)
    maker.open("lay-out")
    page.get_by_role("link", name="A picture of the bed or the scrap").click()
    page.locator("input[type=file]").set_input_files(path)
    picture = page.get_by_role("img", name="The picture as it was taken")
    box = picture.bounding_box()
    scale = min(box["width"] / 900, box["height"] / 600)
    left, top = box["x"] + (box["width"] - 900 * scale) / 2, box["y"] + (box["height"] - 600 * scale) / 2
    places = [(0.05, 0.95, 0, 0), (0.95, 0.95, 600, 0), (0.95, 0.05, 600, 400), (0.05, 0.05, 0, 400)]
    for number, (across, down, x, y) in enumerate(places, 1):
        page.mouse.click(left + 900 * scale * across, top + 600 * scale * down)
        maker.type(f"Mark {number}, x mm", str(x))
        maker.type(f"Mark {number}, y mm", str(y))
    page.get_by_role("button", name="Lay it flat").click()
    flat = page.locator("image")
    expect(page.get_by_text("Click the corners of the scrap")).to_be_visible()
    box = flat.bounding_box()
    for x, y in ((100, 100), (300, 100), (300, 250), (100, 250)):
        page.mouse.click(box["x"] + box["width"] * x / 600, box["y"] + box["height"] * (1 - y / 400))
    page.get_by_role("button", name="Take it as a sheet").click()
    expect(page.get_by_text("It is a sheet of Birch ply 3 mm now")).to_be_visible()
    page.get_by_role("status").get_by_role("link", name="Lay out").click()
    expect(page.get_by_role("button", name=re.compile(r"^(19|20)\d\.\d+ × 1[45]\d\.\d+, 1 at hand"))).to_be_visible()
    # What is no picture is refused, and the one that is there stays.
    page.goto(page.url.replace("lay-out", "bed"))
    (tmp_path / "no.png").write_bytes(b"nothing")
    page.locator("input[type=file]").set_input_files(tmp_path / "no.png")
    expect(page.get_by_role("alert")).to_contain_text("no PNG or JPEG that can be read")
    expect(page.locator("image")).to_be_visible()
