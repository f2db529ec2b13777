"""A tablet at the bench: what a mouse does by dragging, by its wheel and with Shift, fingers do as well."""

import re

import pytest
from playwright.sync_api import expect

from .conftest import Maker, barriers

TABLET = {"width": 1024, "height": 768}


@pytest.fixture
def tablet(browser, served, tray):
    context = browser.new_context(viewport=TABLET, base_url=served.url, has_touch=True)
    context.set_default_timeout(60_000)
    yield Maker(context.new_page(), tray)
    context.close()


class Fingers:
    """Fingers on the glass, each at its place (px)."""

    def __init__(self, page):
        self.page = page
        self._browser = page.context.new_cdp_session(page)

    def touch(self, kind, *places):
        points = [{"x": x, "y": y, "id": number} for number, (x, y) in enumerate(places)]
        self._browser.send("Input.dispatchTouchEvent", {"type": kind, "touchPoints": points})

    def down(self, *places):
        self.touch("touchStart", *places)

    def move(self, *places):
        self.touch("touchMove", *places)

    def up(self):
        self.touch("touchEnd")


def middle(thing):
    box = thing.bounding_box()
    return box["x"] + box["width"] / 2, box["y"] + box["height"] / 2


def test_two_fingers_enlarge_the_drawing_about_where_they_are(tablet):
    page = tablet.page
    tablet.open("lay-out")
    wall = page.get_by_role("button", name="Long wall 2 on sheet 1")
    expect(wall).to_be_visible()
    before = wall.bounding_box()
    x, y = middle(wall)
    fingers = Fingers(page)
    # What the first one had begun, moving the part, is given up as soon as there are two.
    fingers.down((x - 40, y))
    fingers.move((x - 40, y + 30))
    fingers.move((x - 40, y))
    fingers.down((x - 40, y), (x + 40, y))
    for wide in (50, 60, 80):
        fingers.move((x - wide, y), (x + wide, y))
    fingers.move((x - 80, y + 25), (x + 80, y + 25))
    fingers.up()
    expect(wall).to_be_visible()
    after = wall.bounding_box()
    assert after["width"] == pytest.approx(2 * before["width"], rel=0.02)
    assert middle(wall) == pytest.approx((x, y + 25), abs=2)
    assert not barriers(page)


def test_a_finger_held_chooses_beside_what_is_chosen(tablet):
    page = tablet.page
    tablet.open("shape")
    wall = page.get_by_role("contentinfo", name="Parts").get_by_role("button", name="End wall")
    expect(wall).to_have_attribute("aria-pressed", "false")
    fingers = Fingers(page)
    fingers.down(middle(wall))
    expect(page.get_by_text("2 parts chosen")).to_be_visible()
    fingers.up()
    expect(wall).to_have_attribute("aria-pressed", "true")
    expect(page.get_by_text("2 parts chosen")).to_be_visible()
    # A finger that is only put there chooses it alone.
    wall.tap()
    expect(page.get_by_text("2 parts chosen")).to_have_count(0)


def test_a_row_of_the_running_order_is_taken_up_and_put_elsewhere(tablet):
    page = tablet.page
    tablet.open("prepare")
    order = page.get_by_role("list", name="Running order")
    first, second = order.get_by_role("listitem").nth(0), order.get_by_role("listitem").nth(1)
    expect(first).to_contain_text("Score: Floor")
    expect(second).to_contain_text("Score: Long wall")
    fingers = Fingers(page)
    x, y = middle(second)
    fingers.down((x, y))
    expect(second).to_have_class(re.compile("over"))
    for step in (0.4, 0.7, 1):
        fingers.move((x, y + step * (middle(first)[1] - y)))
    expect(first).to_have_class(re.compile("over"))
    fingers.up()
    expect(first).to_contain_text("Score: Long wall")
    expect(second).to_contain_text("Score: Floor")


def test_what_is_gathered_is_ticked_and_kept(tablet):
    page = tablet.page
    tablet.open("hand-over")
    page.get_by_role("button", name="Cut list", exact=True).tap()
    tick = page.get_by_label("Floor is gathered")
    tick.tap()
    expect(page.get_by_text("1 of 8 gathered.")).to_be_visible()
    # WCAG 2.2, 2.5.8: what is pressed is 24 px high and wide at least.
    label = "(e) => Object.values(e.closest('label').getBoundingClientRect().toJSON()).slice(2, 4)"
    assert min(tick.evaluate(label)) >= 24
    page.reload()
    page.get_by_role("button", name="Cut list", exact=True).tap()
    expect(page.get_by_text("1 of 8 gathered.")).to_be_visible()
