"""The first page: projects as pictures, found and put in order, and three ways to begin."""

import io
import re

from playwright.sync_api import expect
from pypdf import PdfReader

from ..projects import ROOT
from .conftest import listed

#: Whether a picture is there, with something in it.
DRAWN = "one => one.complete && one.naturalWidth > 0"


def names(page):
    return (
        page.get_by_role("list", name="Projects").get_by_role("link").filter(has=page.locator("img")).all_inner_texts()
    )


def test_projects_are_pictures_that_are_found_and_put_in_order(page, served):
    served.post("/api/projects", {"name": "Anemone pot, not begun"})
    page.goto("/")
    tray = listed(page, "Sorting tray of card")
    expect(tray).to_contain_text("5 parts on 2 sheets, not proved; a variant of Sorting tray")
    expect(tray).to_contain_text("Grey card 5 mm")
    expect(listed(page, "Anemone pot")).to_contain_text("nothing drawn yet")
    for card in (tray, listed(page, "Tide-gauge rest").first, listed(page, "Anemone pot")):
        picture = card.locator("img")
        picture.scroll_into_view_if_needed()
        page.wait_for_function(DRAWN, arg=picture.element_handle())
    # The latest comes first; by name it is the first of all.
    expect(page.get_by_role("list", name="Projects").get_by_role("listitem").first).to_contain_text("Anemone pot")
    page.get_by_role("radiogroup", name="In which order").get_by_label("by name").press(" ")
    assert names(page) == sorted(names(page), key=str.lower)
    page.get_by_label("Look for a project").fill("card 5")
    expect(page.get_by_role("list", name="Projects").get_by_role("listitem")).to_have_count(1)
    page.get_by_label("Look for a project").fill("nowhere")
    expect(page.get_by_text("No project has “nowhere” in its name or its stock.")).to_be_visible()
    page.get_by_label("Look for a project").fill("")
    # As a list, which it is at the next visit too.
    page.get_by_role("button", name="As a list").click()
    expect(page.get_by_role("row", name="Sorting tray of card")).to_contain_text("5 parts on 2 sheets")
    page.reload()
    expect(page.get_by_role("row", name="Anemone pot")).to_contain_text("nothing drawn yet")
    page.get_by_role("button", name="As a list").click()
    tray.get_by_role("link", name="Sorting tray of card").first.click()
    expect(page).to_have_url(re.compile("/projects/sorting-tray-of-card"))


def test_a_picture_shows_what_an_edit_has_changed(page, served, tray):
    def pictured():
        return next(one for one in served.get("/api/projects") if one["slug"] == tray)["state"]

    page.goto("/")
    first = pictured()
    expect(page.locator(f"img[src*='{tray}/portrait?of={first}']")).to_have_count(1)
    before = served.get_bytes(f"/api/projects/{tray}/portrait?of={first}")
    edit = {"version": 1, "command": {"do": "put name", "name": {"name": "tray_length", "size": {"text": "400"}}}}
    served.post(f"/api/projects/{tray}/edit", edit)
    page.reload()
    expect(page.locator(f"img[src*='{tray}/portrait?of={pictured()}']")).to_have_count(1)
    assert pictured() != first and served.get_bytes(f"/api/projects/{tray}/portrait?of={pictured()}") != before


def test_three_ways_to_begin_stand_side_by_side(page):
    page.goto("/")
    begin = page.get_by_role("region", name="Begin")
    for way in ("From a picture", "From a file", "From a blank part"):
        expect(begin.get_by_role("heading", name=way)).to_be_visible()
    starters = begin.get_by_role("navigation", name="Some starters").get_by_role("link")
    expect(starters).to_have_count(6)
    for picture in starters.locator("img").all():
        page.wait_for_function(DRAWN, arg=picture.element_handle())
    begin.get_by_role("button", name="Begin", exact=True).click()
    expect(page.get_by_role("alert")).to_have_text("Give the project a name first.")
    # A file dropped anywhere is taken as what it is.
    data = (ROOT / "demo" / "stake_tags.json").read_text()
    page.evaluate(
        """text => {
          const carried = new DataTransfer()
          carried.items.add(new File([text], 'tags.json', { type: 'application/json' }))
          document.body.dispatchEvent(new DragEvent('drop', { dataTransfer: carried, bubbles: true, cancelable: true }))
        }""",
        data,
    )
    expect(page).to_have_url(re.compile(r"/projects/stake-tags-\d+/shape"))


def test_an_empty_project_offers_the_same_ways_and_each_station_says_where_to_go(page, served):
    slug = served.post("/api/projects", {"name": "Nothing in it"})["slug"]
    page.goto(f"/projects/{slug}/hand-over")
    page.get_by_role("link", name="Go to Lay out").click()
    expect(page.get_by_role("heading", name="Nothing to lay out yet")).to_be_visible()
    page.get_by_role("link", name="Go to Shape").click()
    expect(page.get_by_role("heading", name="No parts yet")).to_be_visible()
    expect(page.get_by_role("link", name="Bring a drawing").first).to_be_visible()
    page.get_by_role("navigation", name="Some starters").get_by_role("link", name="Box with a lid").click()
    page.get_by_role("button", name="Add it to Nothing in it").click()
    expect(page.get_by_role("contentinfo", name="Parts").get_by_role("button", name="Floor")).to_be_visible()


def test_a_page_to_look_at_is_printed_on_two_pages_the_second_with_sheets_and_cut_list(page, tray):
    page.goto(f"/api/projects/{tray}/page")
    first, second = (one.extract_text() for one in PdfReader(io.BytesIO(page.pdf(prefer_css_page_size=True))).pages)
    assert "Put together" in first and "Divider crossways" in first and "Sheets" not in first
    assert second.index("Sheets") < second.index("Cut list")
