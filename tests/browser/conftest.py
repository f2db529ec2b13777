"""A maker's browser on the real application."""

import os
import re

import pytest
from playwright.sync_api import expect, sync_playwright

from ..projects import ROOT
from ..serving import Served

# The browser library runs an event loop of its own beside Django's test database.
os.environ.setdefault("DJANGO_ALLOW_ASYNC_UNSAFE", "true")
# A worker that has just been started takes its time on a busy machine, and so does all else.
expect.set_options(timeout=60_000)


#: What of the browser's own is left out: above all pages of its address bar, which it would load beside every page.
#: The last list counts, so what the driver leaves out is named again.
LEFT_OUT = (
    "WebUIOmniboxPopup,WebUIOmniboxAimPopup,AimEnabled,LensOverlay,MediaRouter,PaintHolding,HttpsUpgrades,"
    "OptimizationHints,NetworkTimeServiceQuerying,PreconnectToSearch"
)


@pytest.fixture(scope="session")
def browser():
    with sync_playwright() as playwright:
        flags = ["--no-sandbox", "--disable-gpu", "--disable-background-networking", f"--disable-features={LEFT_OUT}"]
        browser = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=flags)
        yield browser
        browser.close()


@pytest.fixture(scope="session")
def served(tmp_path_factory):
    served = Served(tmp_path_factory.mktemp("data"))
    yield served
    served.stop()


@pytest.fixture(scope="session")
def fresh_tray(served):
    return served.get_bytes("/api/projects/sorting-tray/file")


#: A maker's window, in pixels.
SIZE = {"width": 1280, "height": 800}


@pytest.fixture(scope="module")
def window(browser, served):
    """One window for a file of tests: opening another costs more than what most of them do in it."""
    context = browser.new_context(viewport=SIZE, base_url=served.url, accept_downloads=True)
    context.set_default_timeout(60_000)
    yield context.new_page()
    context.close()


@pytest.fixture
def page(window, served):
    """The window as a maker finds it who comes for the first time."""
    window.context.clear_cookies()
    store = window.context.new_cdp_session(window)
    store.send("Storage.clearDataForOrigin", {"origin": served.url, "storageTypes": "all"})
    store.detach()
    window.set_viewport_size(SIZE)
    faults = []

    def heard(error):
        faults.append(str(error))

    window.on("pageerror", heard)
    yield window
    # A list that was chosen from may still be closing.
    expect(window.get_by_role("listbox")).to_have_count(0)
    left = barriers(window)
    window.remove_listener("pageerror", heard)
    window.unroute_all()
    # What is open lets go of the server, and keeps nothing more.
    window.goto("/api/limits")
    assert not faults and not left


AXE = (ROOT / "web" / "node_modules" / "axe-core" / "axe.min.js").read_text()

# What is still fading is neither there nor gone: nobody reads it, and its colours are between two.
AT_REST = """async () => {
  const frame = () => new Promise(requestAnimationFrame)
  const moving = () => document.getAnimations().filter(
    (one) => one.playState === "running" && one.effect?.getComputedTiming().endTime !== Infinity)
  do {
    await Promise.allSettled(moving().map((one) => one.finished))
    await frame()
    await frame()
  } while (moving().length)
}"""


def barriers(page):
    """What stands in the way of those who do not see or point, as axe-core finds it on the page at rest."""
    page.evaluate(AXE)
    page.evaluate(AT_REST)
    found = page.evaluate("axe.run(document, {resultTypes: ['violations']})")
    return [(fault["id"], node["html"][:200]) for fault in found["violations"] for node in fault["nodes"]]


def choose(field, option):
    """Chooses from a list that opens at a field."""
    field.press("Enter")
    # Another field's list may still be closing.
    listed = field.page.locator(f"[id='{field.get_attribute('aria-controls')}']")
    listed.get_by_role("option", name=option, exact=True).click()


def fold(page, title):
    """Folds a section away or open; what it says stands behind its title."""
    page.get_by_role("button", name=re.compile(rf"^{title}\b")).click()


def chosen(page, label):
    """A field with a list, to see in it what is chosen."""
    return page.locator(".row-field").filter(has=page.get_by_label(label, exact=True))


def listed(page, text):
    """Projects in the list, by what is said of them."""
    return page.get_by_role("list", name="Projects").get_by_role("listitem").filter(has_text=text)


class Maker:
    """What a maker does, by the words on the screen."""

    def __init__(self, page, tray):
        self.page, self.tray = page, tray

    def open(self, station, project=None):
        project = project or self.tray
        self.page.goto(f"/projects/{project}/{station}")
        expect(self.page.get_by_label("Facts", exact=True)).to_be_visible()

    def station(self, name):
        self.page.get_by_role("navigation", name="Stations").get_by_role("link", name=re.compile(f"^ *{name}")).click()

    def part(self, name):
        self.page.get_by_role("contentinfo", name="Parts").get_by_role("button", name=name).click()

    def type(self, label, text, exact=True, nth=0):
        field = self.page.get_by_label(label, exact=exact).nth(nth)
        field.fill(text)
        field.press("Enter")
        return field

    def put(self, shape):
        """Puts a shape in the middle of the part, in its usual size."""
        strip = self.page.get_by_role("region", name="Shapes to put on it")
        strip.get_by_role("button", name=shape, exact=True).press("Enter")
        self.page.keyboard.press("Enter")

    def note(self, text):
        return self.page.get_by_role("complementary", name="Margin notes").get_by_text(text)

    def facts(self):
        return self.page.get_by_label("Facts", exact=True)


@pytest.fixture
def tray(served, fresh_tray):
    """A tray of the test's own, laid out as the demo is."""
    return served.post_bytes("/api/projects/open", fresh_tray)["slug"]


@pytest.fixture
def maker(page, tray):
    return Maker(page, tray)
