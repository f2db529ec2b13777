"""What goes wrong around a maker: it is said on the screen, and what was made is there."""

import os
import re
import signal
import sqlite3
from contextlib import closing

from playwright.sync_api import expect

from .conftest import choose, listed


def begun(served, name):
    return served.post("/api/projects", {"name": name})["slug"]


def test_a_deleted_project_is_had_back(page, served):
    begun(served, "Kit of the east bay")
    page.goto("/")
    row = listed(page, "Kit of the east bay")
    row.get_by_role("button", name="Delete").click()
    expect(row).to_have_count(0)
    kept = page.get_by_role("region", name="Deleted").get_by_role("listitem").filter(has_text="Kit of the east bay")
    expect(kept).to_contain_text(re.compile(r"kept until \d+ \w+ 20\d\d"))
    kept.get_by_role("button", name="Have it back").click()
    expect(kept).to_have_count(0)
    row.get_by_role("link", name="Kit of the east bay", exact=True).click()
    expect(page).to_have_url(re.compile("/projects/kit-of-the-east-bay/"))


def test_a_project_that_cannot_be_read_goes_back_to_its_last_state_and_hides_no_other(page, served, tray):
    edit = {"version": 1, "command": {"do": "rename project", "name": "Tray with a fault"}}
    served.post(f"/api/projects/{tray}/edit", edit)
    with closing(sqlite3.connect(served.data / "notch.sqlite3", timeout=30)) as file, file:
        current = "(SELECT current_id FROM workshop_project WHERE slug = ?)"
        spoil = f"UPDATE workshop_revision SET difference = x'00' WHERE id = {current}"
        assert file.execute(spoil, [tray]).rowcount == 1
    served.kill()
    served.start(served.port)
    page.goto("/")
    expect(listed(page, "Lens stand").first).to_be_visible()
    told = listed(page, "cannot be opened as it is stored")
    expect(told).to_have_count(1)
    told.get_by_role("button", name="Go back to its state of").click()
    expect(page).to_have_url(re.compile(f"/projects/{tray}/shape"))
    expect(page.get_by_role("button", name="Project name")).to_have_text("Sorting tray")


def test_a_server_that_is_away_is_said_and_waited_for(maker, page, served):
    maker.open("lay-out")
    served.kill()
    maker.type("Gap between parts", "4")
    expect(page.get_by_text("this may not be stored")).to_be_visible()
    expect(page.get_by_text("this page goes on by itself")).to_be_visible()
    served.start(served.port)
    expect(page.get_by_text("this page goes on by itself")).to_have_count(0)
    maker.type("Gap between parts", "3")
    expect(page.get_by_role("button", name="Undo")).to_have_attribute("title", re.compile("gap 3"))
    page.goto("/")
    expect(listed(page, "Lens stand").first).to_be_visible()
    served.kill()
    page.get_by_role("button", name="Delete: Lens stand").first.click()
    expect(page.get_by_text("this page goes on by itself")).to_be_visible()
    served.start(served.port)
    # The page goes on by itself, and nothing that was not stored is shown as if it were.
    expect(page.get_by_role("alert")).to_have_count(0)
    expect(listed(page, "Lens stand").first).to_be_visible()


def test_a_layout_found_for_an_older_spacing_is_offered(maker, page, served):
    maker.open("lay-out")
    choose(page.get_by_label("Look for"), "2 minutes")
    page.get_by_role("button", name="Lay out again").click()
    expect(page.get_by_role("progressbar")).not_to_have_attribute("aria-valuenow", "0")
    worker = served.hold("nesting")
    try:
        maker.type("Gap between parts", "7")
        expect(page.get_by_role("button", name="Undo")).to_have_attribute("title", re.compile("gap 7"))
    finally:
        os.kill(worker, signal.SIGCONT)
    page.get_by_role("button", name="Stop and keep the best").click()
    expect(page.get_by_text("were changed meanwhile, and were kept")).to_be_visible()
    expect(page.get_by_label("Gap between parts")).to_have_value("7")
    page.get_by_role("button", name="Take this layout").click()
    expect(page.get_by_text("were changed meanwhile")).to_have_count(0)
    expect(page.get_by_label("Gap between parts")).to_have_value("7")
