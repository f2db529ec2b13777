"""A class, played through in three browsers while others work beside: from the cards to what each maker gathers."""

import os
import re
import signal
from concurrent.futures import ThreadPoolExecutor

import pytest
from playwright.sync_api import expect

from ..load import brought_back, worked, workshop
from .conftest import SIZE, choose
from .elsewhere import tablet_of
from .test_people import comes_in, hand_out, put_on_the_list

#: How long (s) the others work, and who they are.
SECONDS, OTHERS = 45, 2


@pytest.fixture
def house(tmp_path_factory):
    served, cards = workshop(tmp_path_factory.mktemp("class"), OTHERS)
    yield served, cards
    served.kill()


@pytest.fixture
def browsers(browser, house):
    """The operator at the machine itself, and two tablets that come from elsewhere."""
    served, _ = house
    here = browser.new_context(viewport=SIZE, base_url=served.url)
    here.set_default_timeout(60_000)
    with tablet_of(browser, served, SIZE) as one, tablet_of(browser, served, SIZE) as other:
        yield here.new_page(), one, other
    here.close()


def copied_and_changed(tablet, project, count):
    """Takes a copy of a design that is handed out, asks for another number of its first part, and lays it out."""
    tablet.goto("/")
    tablet.get_by_role("button", name=f"Take a copy: {project}").click()
    mine = tablet.get_by_role("region", name="Yours").get_by_role("link", name=project, exact=True).first
    mine.click()
    tablet.get_by_label("How many", exact=True).fill(count)
    tablet.get_by_label("How many", exact=True).press("Enter")
    tablet.get_by_role("link", name="Lay out").click()
    choose(tablet.get_by_label("Look for"), "2 seconds")
    layout = tablet.get_by_role("region", name="Layout")
    layout.get_by_role("button", name=re.compile("Lay out")).first.click()
    expect(tablet.get_by_label("Facts", exact=True)).to_contain_text(re.compile(r"parts? on \d sheets?"))


def handed_in(tablet, name):
    """Hands the first sheet in; its number."""
    tablet.get_by_role("link", name="Hand over").click()
    section = tablet.get_by_role("button", name=re.compile("^Hand in to the operator"))
    # It stays open where it was opened before.
    if section.get_attribute("aria-expanded") != "true":
        section.click()
    tablet.get_by_label("Whose it is").fill(name)
    tablet.get_by_role("button", name="Hand in sheet 1").click()
    told = tablet.get_by_text(re.compile(r"Handed in as number \d+\."))
    expect(told).to_be_visible()
    return int(re.search(r"\d+", told.inner_text())[0])


def run_to_its_end(desk, machine):
    """At the panel of a machine: home, and run."""
    desk.goto(f"/day/{machine}")
    desk.get_by_role("link", name="The machine's panel").click()
    panel = desk.get_by_role("complementary", name="The machine's panel")
    panel.get_by_role("button", name="Home").click()
    choose(panel.get_by_label("Runs at"), "200 × real time")
    panel.get_by_role("button", name="Start").click()
    expect(desk.get_by_role("status").first).to_contain_text("done")


def gathered(desk, machine, number):
    """Says at a machine that all of a sheet is cut; what there was to gather, by maker."""
    desk.goto(f"/day/{machine}")
    panel = desk.get_by_role("complementary", name="In the machine")
    expect(panel.get_by_role("heading", name=re.compile(rf"^Now: numbers? .*{number}"))).to_be_visible()
    parts = panel.get_by_role("region").all()
    of_each = {part.get_by_role("heading").inner_text(): part.inner_text() for part in parts}
    panel.get_by_role("button", name="All of it is cut").click()
    expect(desk.get_by_text("Nothing is in this machine.")).to_be_visible()
    return of_each


def released_alone(desk, number):
    """Ticks all checks of a sheet at the desk and releases it."""
    desk.goto("/queue")
    desk.get_by_role("group", name="Queue").get_by_text(re.compile(f"^{number}$")).first.click()
    looked = desk.get_by_role("complementary", name="What is looked at")
    expect(looked.get_by_role("heading", name=re.compile(f"^Number {number}, "))).to_be_visible()
    for tick in looked.get_by_role("checkbox").all():
        tick.press(" ")
    looked.get_by_role("button", name="Release to the machine").press("Enter")
    expect(desk.get_by_role("heading", name=re.compile("Simulated machine"))).to_be_visible()


def test_a_class_is_played_through_with_kills_in_the_middle(house, browsers):
    served, cards = house
    desk, wrens, terns = browsers
    words = put_on_the_list(desk, "Wren Holm\nTern")
    for project in ("Stake tags", "Boot rack"):
        hand_out(desk, project)
    with ThreadPoolExecutor(1) as beside:
        others = beside.submit(worked, served, cards, SECONDS)
        comes_in(wrens, "Wren Holm", words["Wren Holm"])
        comes_in(terns, "Tern", words["Tern"])
        for tablet in (wrens, terns):
            expect(tablet.get_by_text("Shared with you")).to_be_visible()
        before = served.beside()
        copied_and_changed(wrens, "Stake tags", "3")
        # As a power cut would.
        os.kill(before["workplace 1"], signal.SIGKILL)
        copied_and_changed(terns, "Stake tags", "2")
        os.kill(before["workplace 2"], signal.SIGKILL)
        tags = handed_in(wrens, "Wren Holm"), handed_in(terns, "Tern")
        os.kill(before["nesting"], signal.SIGKILL)
        copied_and_changed(terns, "Boot rack", "3")
        rack = handed_in(terns, "Tern")
        # The operator lays the tags of both together, for the laser; the rack goes to the router.
        desk.goto("/queue")
        for number in tags:
            desk.get_by_label(f"Number {number}", exact=True).first.click()
        desk.get_by_role("button", name="Lay 2 together on one sheet").click()
        looked = desk.get_by_role("complementary", name="What is looked at")
        looked.get_by_role("button", name="Release them all").click()
        expect(desk.get_by_role("status").first).to_contain_text("together-")
        released_alone(desk, rack)
        run_to_its_end(desk, "Club laser")
        run_to_its_end(desk, "Shed router")
        tags_of = gathered(desk, "Club laser", tags[0])
        rack_of = gathered(desk, "Shed router", rack)
        work = others.result()
    assert set(tags_of) == {f"{tags[0]}, Wren Holm", f"{tags[1]}, Tern"} and set(rack_of) == {f"{rack}, Tern"}
    rows = {row["number"]: row["state"] for row in served.get("/api/queue")["rows"]}
    assert {rows[number] for number in (*tags, rack)} == {"cut"}
    # Three processes beside the server were ended meanwhile, and nobody lost anything by it.
    assert set(before) == set(served.beside()) and not any(maker.lost() for maker in work.makers)
    assert len({*before.values()} & {*served.beside().values()}) == 1
    told = {(row["who"], row["kind"]) for row in served.get("/api/desk/done")}
    assert {("Wren Holm", "came in"), ("Tern", "step"), ("Tern", "sheet"), ("", "sheet")} <= told
    # And all of it can be had back as it was in the midst of it.
    assert brought_back(served, work) == []
