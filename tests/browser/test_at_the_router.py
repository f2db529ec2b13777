"""A maker with a router: from a cutter of the library to a proved program, run until nothing falls loose."""

import re

from leannotch_core.drawings.gcode.words import Dialect
from leannotch_core.facts.profiles.shipped import shipped
from leannotch_core.proof.depth.dangers import Limits
from leannotch_core.proof.depth.program import read_program
from leannotch_core.proof.depth.report import prove_depth
from leannotch_core.proof.depth.swept import SweptCutter
from playwright.sync_api import expect

from .conftest import choose


def row(page, name):
    return page.get_by_role("list", name="Running order").get_by_role("button", name=re.compile(f"^{name}"))


def open_section(page, title):
    section = page.get_by_role("button", name=title, exact=True)
    if section.get_attribute("aria-expanded") != "true":
        section.click()


def number(page, name):
    """The figure at the beginning of a text of the page."""
    return float(re.search(r"[\d.]+", name)[0])


def test_a_boot_rack_goes_from_the_layout_to_the_router_and_nothing_falls_loose(served, maker, page):
    slug = served.post_bytes("/api/projects/open", served.get_bytes("/api/projects/boot-rack/file"))["slug"]
    maker.open("prepare", slug)
    see_feeds(page, maker)
    hold_parts(page)
    see_it_in_depth(page)
    hand_over(page, maker)
    run_it(page, maker)


def see_feeds(page, maker):
    """Feeds come from the chip load; a changed one tells what it does to that."""
    row(page, "Cut out: Shelf").first.click()
    settings = page.get_by_role("region", name="Settings")
    expect(settings.get_by_text("0.143 mm a tooth")).to_be_visible()
    maker.type("Feed, mm/min", "800")
    expect(settings.get_by_text("0.025 mm a tooth")).to_be_visible()
    expect(maker.note("rubs more than it cuts").first).to_be_visible()
    maker.type("Feed, mm/min", "4500")
    expect(maker.note("rubs more than it cuts")).to_have_count(0)
    expect(row(page, "Cut out: Shelf").first).to_contain_text("3 passes, 4500 mm/min")
    maker.type("Stepdown, mm", "9.1")
    expect(maker.note("is more than its diameter").first).to_be_visible()
    maker.type("Stepdown, mm", "0")
    expect(page.get_by_text("A stepdown of 0 never gets through the sheet")).to_be_visible()
    maker.type("Stepdown, mm", "4.6")
    expect(row(page, "Cut out: Shelf").first).to_contain_text("4 passes")
    # A cutter that is too wide for a hole, and a ramp that is none, are said.
    open_section(page, "How it goes through")
    maker.type("Ramp, degrees", "90")
    expect(page.get_by_text("A ramp of 90 degrees is no slope that a cutter goes down")).to_be_visible()
    maker.type("Ramp, degrees", "5")
    expect(page.get_by_text("A ramp of 90 degrees")).to_have_count(0)


def hold_parts(page):
    """Four tabs are moved on the drawing; the parts still hang on as many."""
    page.get_by_role("group", name="A click on a line").get_by_role("button", name="Holding tabs").click()
    tabs = page.get_by_role("button", name="Holding tab of Left side 1")
    expect(tabs).to_have_count(4)
    for at in range(4):
        tab = tabs.nth(at).bounding_box()
        x, y = tab["x"] + tab["width"] / 2, tab["y"] + tab["height"] / 2
        page.mouse.move(x, y)
        page.mouse.down()
        page.mouse.move(x + 4, y + 1, steps=4)
        with page.expect_response(re.compile(r"/prepared/1")):
            page.mouse.up()
        expect(tabs).to_have_count(4)


def see_it_in_depth(page):
    page.get_by_role("group", name="A click on a line").get_by_role("button", name="In depth").click()
    expect(page.get_by_role("img", name="The sheet in space, as far as it is cut")).to_be_visible()
    page.get_by_role("button", name="Play").click()
    expect(page.get_by_text(re.compile(r"^[1-9].* gone, "))).to_be_visible()
    page.get_by_role("button", name="Pause").click()


def hand_over(page, maker):
    maker.station("Prove")
    page.get_by_role("button", name=re.compile("^Prove")).first.click()
    expect(page.get_by_text("All 7 parts are as meant; 7 hang on holding tabs.")).to_be_visible()
    expect(page.get_by_text("Yes: holding tabs are where they were put")).to_be_visible()
    page.get_by_role("tab", name="Fit ledger with proved gaps").click()
    maker.station("Hand over")
    with page.expect_download() as download:
        page.get_by_role("button", name="as G-code").click()
    program = download.value.path().read_bytes()
    read = read_program([program], Dialect.of(shipped()["router"]))
    proof = prove_depth(read, 18.0, {1: SweptCutter(6.35)}, Limits())
    parts = [piece for piece in proof.freed.pieces if piece.kind == "part"]
    assert len(parts) == 7 and {piece.held for piece in parts} == {4} and not proof.dangers
    assert {round(tab.height, 2) for tab in proof.tabs} == {5} and len(proof.tabs) == 28
    assert sum(abs(floor.depth - 6) < 0.01 for floor in proof.floors) == 6


def run_it(page, maker):
    page.get_by_role("button", name="Send to the simulated machine").click()
    page.wait_for_url("**/machine")
    panel = page.get_by_role("complementary", name="The machine's panel")
    panel.get_by_role("button", name="Home").click()
    choose(panel.get_by_label("Runs at"), "200 × real time")
    panel.get_by_role("button", name="Start").click()
    expect(panel.get_by_text("Engaged")).to_be_visible()
    expect(page.get_by_role("status").filter(has_text="done")).to_be_visible()
    expect(page.get_by_role("alert")).to_have_count(0)


def test_a_router_without_a_cutter_is_given_one_from_the_library(maker, page):
    maker.open("prepare")
    page.get_by_role("button", name="Machine", exact=True).click()
    page.get_by_role("button", name=re.compile("Shed router")).first.click()
    page.keyboard.press("Escape")
    expect(page.get_by_text("No cutter is chosen")).to_be_visible()
    choose(page.get_by_label("From the library"), "3.175 upcut")
    expect(page.get_by_text("cutter 3.17")).to_be_visible()
    # The tray's fingers were laid out for a beam: what is too near for a cutter is said, with a way out.
    expect(maker.note(re.compile("apart")).first).to_be_visible()
    open_section(page, "The rack")
    maker.type("Caliper readings", "3.1 3.12")
    expect(page.get_by_text("cutter 3.11")).to_be_visible()
    expect(maker.note("Nothing is held").first).to_be_visible()
    page.get_by_role("button", name="Put four holding tabs on each part").first.click()
    expect(maker.note("Nothing is held")).to_have_count(0)
