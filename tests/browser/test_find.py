"""Anything is found by its words, gone to and done, with the keyboard alone."""

import re

from playwright.sync_api import expect

from ..projects import ROOT
from .conftest import barriers


def find(page, words):
    page.keyboard.press("/")
    return looked_for(page, words)


def looked_for(page, words):
    page.get_by_label("Find anything").fill(words)
    return page.get_by_role("list", name="Found").get_by_role("listitem")


def test_parts_joints_settings_and_acts_are_found_and_gone_to_by_keyboard(maker, page):
    maker.open("measure")
    expect(maker.facts()).to_contain_text("8 parts")
    expect(find(page, "end wall").first).to_contain_text("part")
    assert not barriers(page)
    page.keyboard.press("Enter")
    expect(page.get_by_label("Drawing of End wall")).to_be_visible()

    # A setting of another station, folded away there, has the caret.
    expect(find(page, "dxf version").first).to_contain_text("Hand over")
    page.keyboard.press("Enter")
    expect(page.get_by_label("DXF version")).to_be_focused()

    # Of two that are alike one is chosen with the arrows.
    page.get_by_role("button", name="Find").click()
    joints = looked_for(page, "long wall floor")
    expect(joints.nth(1)).to_contain_text("joint, finger")
    page.keyboard.press("ArrowDown")
    page.keyboard.press("Enter")
    expect(page.get_by_label("Finger width, about")).to_be_visible()

    # What can be done is done.
    find(page, "inches").first.get_by_role("button").click()
    expect(page.get_by_role("button", name="Show in mm")).to_be_visible()
    page.keyboard.press("/")
    page.get_by_label("Find anything").fill("no such thing")
    expect(page.get_by_text("Nothing is called that here.")).to_be_visible()
    page.keyboard.press("Escape")
    expect(page.get_by_label("Find anything")).to_have_count(0)


def test_pages_projects_and_what_stands_there_are_found_where_no_project_is_open(page):
    page.goto("/")
    expect(page.get_by_role("list", name="Projects").get_by_role("listitem").first).to_be_visible()
    expect(find(page, "offcut shelf").first).to_contain_text("Offcut shelf")
    page.keyboard.press("Enter")
    expect(page).to_have_url(re.compile("/shelf$"))
    expect(page.get_by_role("heading", level=1)).to_be_visible()
    expect(find(page, "tide staff").first).to_contain_text("project")
    page.keyboard.press("Enter")
    expect(page).to_have_url(re.compile("/tide-staff/shape$"))
    page.goto("/service")
    expect(find(page, "simulated machine").first).to_contain_text("page")


#: What is told of each station to whoever is elsewhere.
SAID = (ROOT / "web" / "src" / "find" / "settings.ts").read_text()

#: Whether something is called so at the station that is open, folded away or not.
IS_THERE = """words => [...document.querySelectorAll(
    "main :is(label, button, a[href], .el-collapse-item__header, [role=radiogroup], [role=tab])")].some(one => {
  const said = one.getAttribute("aria-label") ?? (one.querySelector(".fold-title") ?? one).textContent
  return said.trim().replace(/\\s+/g, " ") === words
})"""


def said_of(station):
    """What Find knows of a station from elsewhere, and what the handbook has one try there."""
    [line] = re.findall(rf"^  '?{station}'?: \[(.*)\],$", SAID, re.M)
    page = (ROOT / "docs" / "handbook" / f"{station}.md").read_text()
    tries = page.split("## Three things to try")[1].split("## What goes wrong")[0]
    named = re.findall(r"\*\*([^*]+)\*\*", tries.replace("\n   ", " "))
    assert len(named) >= 2 and tries.count("\n1. ") == tries.count("\n3. ") == 1
    return [*re.findall(r"'([^']+)'", line), *named]


def test_what_is_said_of_a_station_elsewhere_and_in_the_handbook_is_there(maker, page):
    maker.open("measure")
    for number, station in enumerate(("measure", "shape", "join", "lay-out", "prepare", "prove", "hand-over"), start=1):
        page.keyboard.press(str(number))
        expect(page).to_have_url(re.compile(f"/{station}$"))
        for words in said_of(station):
            page.wait_for_function(IS_THERE, arg=words)


def test_a_newcomer_walks_along_the_stations_and_leaves_again(page):
    page.goto("/")
    page.get_by_role("button", name="Walk along the seven stations").click()
    handbook = page.get_by_role("region", name="Handbook")
    for name in ("Measure", "Shape", "Join", "Lay out", "Prepare", "Prove", "Hand over"):
        expect(handbook.get_by_role("heading", name=name, exact=True)).to_be_visible()
        expect(handbook.get_by_role("heading", name="What goes wrong")).to_be_attached()
        if name != "Hand over":
            assert not barriers(page)
            handbook.get_by_role("link", name=re.compile("^Next: ")).click()
    handbook.get_by_role("button", name="Close it").click()
    expect(handbook).to_have_count(0)
    page.keyboard.press("F1")
    expect(handbook.get_by_role("heading", name="Hand over", exact=True)).to_be_visible()
    # What it says is found too, and opens beside the work.
    page.keyboard.press("F1")
    expect(find(page, "slots loose").first).to_contain_text("handbook, Measure")
    page.keyboard.press("Enter")
    expect(handbook.get_by_text("All slots are loose.")).to_be_visible()


def test_the_demo_is_put_away_and_had_back(page, served):
    served.post("/api/projects", {"name": "Of my own"})
    page.goto("/")
    cards = page.get_by_role("list", name="Projects")
    expect(cards.get_by_text("Display whelk")).to_be_visible()
    page.get_by_role("button", name="Put them away").click()
    expect(cards.get_by_text("Display whelk")).to_have_count(0)
    expect(cards.get_by_text("Of my own").first).to_be_visible()
    page.reload()
    expect(cards.get_by_text("Of my own").first).to_be_visible()
    expect(cards.get_by_text("Display whelk")).to_have_count(0)
    page.get_by_role("button", name="Have them back").click()
    expect(cards.get_by_text("Display whelk")).to_be_visible()
