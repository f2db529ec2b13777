"""A list of makers, played through: cards, a design handed out, copies of it, and a shared tablet."""

import re

import pytest
from playwright.sync_api import expect

from ..strangers import WORDS, opened
from .conftest import SIZE, barriers, fold, listed
from .elsewhere import tablet_of


@pytest.fixture(scope="module")
def workshop(tmp_path_factory):
    served = opened(tmp_path_factory.mktemp("workshop"))
    yield served
    served.stop()


@pytest.fixture
def tablet(browser, workshop):
    """A tablet that comes from elsewhere."""
    with tablet_of(browser, workshop, SIZE) as page:
        yield page


@pytest.fixture
def desk(browser, workshop):
    """The operator at the machine itself."""
    context = browser.new_context(viewport=SIZE, base_url=workshop.url)
    context.set_default_timeout(60_000)
    yield context.new_page()
    context.close()


def comes_in(tablet, name, word):
    tablet.goto("/")
    tablet.get_by_label("Your name").fill(name)
    tablet.get_by_label("Your word").fill(word)
    tablet.get_by_role("button", name="Come in").click()


def put_on_the_list(desk, names):
    """The words of makers who were put on the list, by their names, as their cards show them."""
    desk.goto("/queue")
    fold(desk, "Makers by name")
    field = desk.get_by_label("Names to put on the list")
    table = {"name": "class.csv", "mimeType": "text/csv", "buffer": names.replace("\t", ",").encode()}
    desk.get_by_role("region", name="Makers by name").locator("input[type=file]").set_input_files(table)
    expect(field).to_have_value(re.sub("\n+", "\n", re.sub("\t.*", "", names)))
    desk.get_by_role("button", name="Put them on the list").click()
    cards = desk.get_by_role("list", name="Cards").get_by_role("listitem")
    expect(cards.first).to_be_visible()
    words = dict(text.split("\n")[-2:] for text in cards.all_inner_texts())
    assert not barriers(desk)
    desk.keyboard.press("Escape")
    return words


def hand_out(desk, project):
    """Lets every maker copy a project."""
    desk.goto("/")
    desk.get_by_role("button", name=f"Whose it is: {project}", exact=True).click()
    desk.get_by_text("to look at and to copy", exact=True).click()
    expect(desk.get_by_text("Nobody has taken a copy yet.")).to_be_visible()
    desk.keyboard.press("Escape")


def cut_more(tablet, name, count):
    """Opens a project of the list and asks for another number of its first part."""
    tablet.get_by_role("link", name=name, exact=True).first.click()
    tablet.get_by_label("How many", exact=True).fill(count)
    tablet.get_by_label("How many", exact=True).press("Enter")


def test_a_design_is_handed_out_to_makers_on_a_list_and_changed_by_each(desk, tablet):
    words = put_on_the_list(desk, "Wren Holm\n\nTern\tgroup 2")
    assert set(words) == {"Wren Holm", "Tern"}
    expect(desk.get_by_role("list", name="Makers").get_by_role("listitem")).to_have_count(2)
    hand_out(desk, "Boot rack")

    # The word of another lets nobody in; one's own does.
    comes_in(tablet, "Tern", words["Wren Holm"])
    expect(tablet.get_by_role("alert")).to_have_text("That name and that word do not belong together.")
    comes_in(tablet, "tern", words["Tern"])
    expect(tablet.get_by_text("Shared with you")).to_be_visible()
    expect(tablet.get_by_role("listitem").filter(has_text="Cross-staff")).to_have_count(0)

    # What is handed out is looked at, and not changed; the copy is.
    cut_more(tablet, "Boot rack", "4")
    expect(tablet.get_by_text("make a copy, and change that").first).to_be_visible()
    # The list is not shown before it is known whose eyes are on it: nothing moves under a hand.
    held = []

    def hold(route):
        held.append(route)

    tablet.route("**/api/role", hold)
    with tablet.expect_response("**/api/projects"), tablet.expect_response("**/api/deleted"):
        tablet.goto("/")
    tablet.evaluate("new Promise((drawn) => requestAnimationFrame(() => requestAnimationFrame(drawn)))")
    expect(tablet.get_by_text("Reading the list")).to_be_visible()
    for asked in held:
        asked.continue_()
    tablet.unroute("**/api/role")
    tablet.get_by_role("button", name="Take a copy: Boot rack").click()
    expect(tablet.get_by_text("Yours", exact=True)).to_be_visible()
    cut_more(tablet, "Boot rack", "4")
    expect(tablet.get_by_label("Facts", exact=True)).to_contain_text("10 parts")

    # She leaves, from where she is; the next one at this tablet sees nothing of hers.
    tablet.get_by_role("button", name="Leave").click()
    expect(tablet.get_by_label("Your name")).to_be_visible()
    comes_in(tablet, "Wren Holm", words["Wren Holm"])
    expect(tablet.get_by_text("Shared with you")).to_be_visible()
    expect(tablet.get_by_text("Yours", exact=True)).to_have_count(0)

    # The operator sees what became of it, and takes a maker off the list.
    desk.goto("/")
    expect(listed(desk, "Tern")).to_have_count(1)
    desk.get_by_role("button", name="Whose it is: Boot rack", exact=True).click()
    hands = desk.get_by_role("list", name="In makers’ hands").get_by_role("listitem")
    expect(hands).to_have_count(1)
    expect(hands.first).to_contain_text("Tern")
    expect(hands.first).to_contain_text(re.compile("[0-9]+ notes?|nothing to mend"))
    desk.keyboard.press("Escape")
    desk.goto("/queue")
    desk.get_by_role("button", name="Take Wren Holm off the list").click()
    desk.get_by_role("button", name="Take Wren Holm off now").click()
    expect(desk.get_by_role("list", name="Makers").get_by_role("listitem")).to_have_count(1)
    tablet.goto("/")
    expect(tablet.get_by_label("Your name")).to_be_visible()


def test_what_a_maker_measured_is_proposed_and_taken_into_the_library(desk, tablet, workshop):
    words = put_on_the_list(desk, "Dunlin")
    comes_in(tablet, "Dunlin", words["Dunlin"])
    tablet.get_by_label("New project").fill("Measured")
    tablet.get_by_role("button", name="Begin", exact=True).click()
    tablet.get_by_role("link", name="Measure").click()
    name = tablet.get_by_role("button", name="Stock", exact=True).inner_text()
    kept = next(stock for stock in workshop.get("/api/library") if stock["name"] == name)
    for number, _ in enumerate(kept["readings"], 1):
        tablet.get_by_label(f"Reading {number}", exact=True).fill("3.22")
        tablet.get_by_label(f"Reading {number}", exact=True).press("Enter")
    expect(tablet.get_by_label("Facts", exact=True)).to_contain_text("3.22 mm")
    tablet.get_by_role("button", name="Keep in the library").press("Enter")
    expect(tablet.get_by_text("is proposed; the operator takes it into the library.")).to_be_visible()
    desk.goto("/queue")
    fold(desk, "Proposed for the library")
    waiting = desk.get_by_role("list", name="Proposed").get_by_role("listitem").filter(has_text="Dunlin")
    expect(waiting.first).to_contain_text("becomes 3.22 mm")
    desk.get_by_role("button", name=f"Take {name} of Dunlin into the library").click()
    expect(waiting).to_have_count(0)
    [now] = [stock for stock in workshop.get("/api/library") if stock["name"] == name]
    assert {one["text"] for one in now["readings"]} == {"3.22"} and not barriers(desk)
    # Projects that took it as it was are told so.
    stock = workshop.get("/api/projects/sorting-tray")["document"]["stocks"][0]
    assert (stock["name"] == name) and stock["readings"] == kept["readings"]
    desk.goto("/projects/sorting-tray/measure")
    expect(desk.get_by_text("was measured anew for everybody on").first).to_be_visible()


def test_two_work_on_one_project_and_each_sees_the_others_change_soon(desk, tablet):
    words = put_on_the_list(desk, "Gull")
    comes_in(tablet, "Gull", words["Gull"])
    tablet.get_by_label("New project").fill("Ours")
    tablet.get_by_role("button", name="Begin", exact=True).click()
    expect(tablet.get_by_label("Facts", exact=True)).to_be_visible()
    desk.goto("/projects/ours/measure")
    expect(desk.get_by_role("status").filter(has_text="Gull is here too, at")).to_be_visible()
    expect(tablet.get_by_role("status").filter(has_text="the operator is here too, at Measure")).to_be_visible()
    fold(tablet, "Project name")
    tablet.get_by_label("Name of the project").fill("Ours and yours")
    tablet.get_by_label("Name of the project").press("Enter")
    expect(desk.get_by_label("Facts", exact=True)).to_contain_text("Ours and yours")
    desk.goto("/queue")
    expect(tablet.get_by_role("status").filter(has_text="is here too")).to_have_count(0)
    desk.get_by_role("button", name="What was done lately").click()
    expect(desk.get_by_role("row").filter(has_text="Gull").first).to_contain_text("Ours and yours")


def test_what_is_good_is_taken_in_one_press_and_the_rest_is_looked_at(desk, workshop):
    number = next(row["number"] for row in workshop.get("/api/queue")["rows"] if row["owner"] == "Bram")
    desk.goto("/queue")
    desk.get_by_role("group", name="Queue").get_by_role("row").filter(has_text="Bram").click()
    fold(desk, "Looked at by hand")
    for name in ("No doubles", "The proof"):
        desk.get_by_text(name, exact=True).last.click()
    desk.get_by_role("button", name="Take the 2 that are good").click()
    expect(desk.get_by_role("checkbox", name="No doubles", exact=True)).to_be_checked()
    expect(desk.get_by_role("button", name=re.compile("Take the"))).to_have_count(0)
    assert workshop.get(f"/api/queue/{number}")["ticks"] == ["doubles", "proof"] and not barriers(desk)


def test_the_operator_comes_in_from_elsewhere_by_the_word_alone(desk, tablet, workshop):
    put_on_the_list(desk, "Plover")
    comes_in(tablet, "", WORDS["operator"])
    expect(tablet.get_by_role("heading", name="The hand-in queue")).to_be_visible()
    expect(tablet.get_by_text("operator", exact=True)).to_be_visible()
