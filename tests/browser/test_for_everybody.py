"""Pages as those meet them who do not see, point or type single letters."""

import re

from playwright.sync_api import expect

from .conftest import barriers

STATIONS = ("measure", "shape", "join", "lay-out", "prepare", "prove", "hand-over")
PAGES = ("/", "/starters", "/starters/tray", "/shelf", "/machine", "/queue", "/service")


def every_page(maker, page):
    """Opens one page after the other."""
    for path in PAGES:
        page.goto(path)
        expect(page.get_by_role("heading", level=1)).not_to_have_text("")
        yield path
    for station in STATIONS:
        maker.open(station)
        yield station


def test_no_page_has_a_barrier(maker, page):
    for path in every_page(maker, page):
        assert (path, barriers(page)) == (path, [])


def test_enlarged_twice_every_page_stays_as_wide_as_the_window_and_a_drawing_large_enough_to_work_on(maker, page):
    page.set_viewport_size({"width": 640, "height": 400})
    for path in every_page(maker, page):
        assert page.evaluate("document.documentElement.scrollWidth") <= 640, path
        if path in STATIONS[1:4]:
            drawn = page.get_by_role("main").locator("svg").first.bounding_box()
            assert drawn["width"] > 500 and drawn["height"] > 200, path


def test_a_word_of_the_trade_is_told_while_its_field_has_the_caret(maker, page):
    maker.open("measure")
    said = page.get_by_text("The narrowest piece of this sheet that still holds between two cuts.")
    expect(said).to_be_hidden()
    page.get_by_label("Smallest web").focus()
    expect(said).to_be_visible()
    expect(page.get_by_label("Smallest web")).to_have_accessible_description(re.compile("^The narrowest piece"))


def test_a_choice_has_its_trade_word_read_aloud(maker, page):
    maker.open("measure")
    grain = page.get_by_label("Grain", exact=True)
    expect(grain).to_have_accessible_description(re.compile("^Which way the fibres run"))


def test_with_colours_of_the_system_drawings_keep_theirs_and_with_more_contrast_lines_are_darker(maker, page):
    colour = "(e) => getComputedStyle(e).backgroundColor"
    maker.open("lay-out")
    drawing = page.get_by_role("group", name=re.compile("^Sheet 1"))
    ground, paper = drawing.evaluate(colour), page.locator("body").evaluate(colour)
    page.emulate_media(forced_colors="active", color_scheme="dark")
    assert drawing.evaluate(colour) == ground and page.locator("body").evaluate(colour) != paper
    page.emulate_media(forced_colors="none", color_scheme="light", contrast="more")
    assert drawing.evaluate(colour) == "rgb(255, 255, 255)"
    assert not barriers(page)
    page.emulate_media(contrast="no-preference")


def test_a_joint_is_chosen_in_its_ledger_and_its_list_opened_by_keyboard_alone(maker, page):
    maker.open("join")
    row = page.get_by_role("group", name="Fit ledger").get_by_role("row", name=re.compile("^cross-lap")).first
    row.focus()
    page.keyboard.press("ArrowDown")
    page.keyboard.press("Space")
    expect(page.get_by_label("Share cut from Divider lengthways")).to_be_visible()
    fit = page.get_by_role("region", name="Joints").get_by_label("Fit", exact=True)
    fit.press("ArrowDown")
    expect(page.get_by_role("option", name="press", exact=True)).to_be_visible()
    page.keyboard.press("Escape")
    expect(page.get_by_role("option", name="press", exact=True)).to_have_count(0)
    edge = page.get_by_role("button", name="top edge of Floor")
    edge.press("Space")
    expect(page.get_by_label("Finger width, about")).to_be_visible()


def test_single_letters_are_keys_only_for_those_who_want_them(maker, page):
    maker.open("shape")
    page.keyboard.press("3")
    expect(page).to_have_url(re.compile("/join$"))
    page.keyboard.press("?")
    page.get_by_role("checkbox", name=re.compile("^Single letters")).press(" ")
    page.keyboard.press("Escape")
    expect(page.get_by_role("dialog", name="Keys")).to_have_count(0)
    page.keyboard.press("2")
    page.keyboard.press("Control+z")
    expect(page).to_have_url(re.compile("/join$"))
    page.get_by_role("button", name="Keys").click()
    expect(page.get_by_role("checkbox", name=re.compile("^Single letters"))).not_to_be_checked()
