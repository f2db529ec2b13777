"""The day at the machines, and the screen at one of them: what is next, what lies on the bed, what came of it."""

import re

import pytest
from playwright.sync_api import expect

from ..serving import Served


@pytest.fixture(scope="module")
def club(tmp_path_factory):
    served = Served(tmp_path_factory.mktemp("club"))
    yield served
    served.kill()


def released(served, owner):
    """A sheet of the queue in its machine, with all checks ticked."""
    number = next(row["number"] for row in served.get("/api/queue")["rows"] if row["owner"] == owner)
    looked = served.get(f"/api/queue/{number}")
    ticks = [check["code"] for check in looked["sheet"]["checks"]]
    looked = served.post(f"/api/queue/{number}/ticks", {"version": looked["shown"]["version"], "ticks": ticks})
    served.post(f"/api/queue/{number}/release", {"version": looked["shown"]["version"]})
    return number


def test_the_day_is_listed_by_machine_and_a_sheet_comes_back_from_one(page, club):
    page.goto(f"{club.url}/queue")
    page.get_by_role("link", name="The day at the machines").click()
    laser, router = (page.get_by_role("region", name=name) for name in ("Club laser", "Shed router"))
    rows = laser.get_by_role("row").filter(has_text="waits")
    # As they are wanted: Bram in four days, Ida in nine, Noor in twelve.
    expect(rows).to_have_count(3)
    for row, owner in zip(rows.all(), ("Bram", "Ida", "Noor"), strict=True):
        expect(row).to_contain_text(owner)
    facts = {row["owner"]: row["facts"] for row in club.get("/api/queue")["rows"]}
    expect(rows.first).to_contain_text(f"{facts['Bram']['seconds'] / 60:.1f} min")
    whole = sum(facts[owner]["seconds"] for owner in ("Bram", "Ida", "Noor")) / 60
    expect(laser).to_contain_text(f"3 sheets, {whole:.1f} min without a break")
    expect(router.get_by_role("row").filter(has_text="Odo")).to_be_visible()
    laser.get_by_role("link", name="At this machine").click()
    expect(page.get_by_text("Nothing is in this machine.")).to_be_visible()
    number = released(club, "Bram")
    # Nobody touches the tablet: it sees for itself what was released.
    panel = page.get_by_role("complementary", name="In the machine")
    expect(panel.get_by_role("heading", name=f"Now: number {number}")).to_be_visible()
    expect(panel.get_by_role("listitem")).to_have_count(2)
    expect(panel.get_by_role("status")).to_contain_text(f"The machine has {number}-Bram")
    expect(panel.get_by_role("status")).to_contain_text("and has not begun")
    # It is run meanwhile at its own panel, and this screen says so by itself.
    for act, body in (("home", {}), ("times", {"times": 200}), ("start", {"doing": "program"})):
        club.post(f"/api/device/{act}?of=club_laser", body)
    expect(panel.get_by_role("status")).to_contain_text("The machine has run all of")
    panel.get_by_role("checkbox", name="End wall 2 failed").press(" ")
    panel.get_by_label("Why it failed").fill("the clip was in the way")
    panel.get_by_role("button", name="Cut, but for 1 that failed").click()
    expect(page.get_by_text("Nothing is in this machine.")).to_be_visible()
    [row] = [row for row in club.get("/api/queue")["rows"] if row["number"] == number]
    assert row["state"] == "waiting" and [one["copy_number"] for one in row["again"]] == [2]
    assert row["why"] == "the clip was in the way"
    assert club.get("/api/shelf")
    # Four minutes are worked by hand at each sheet that is not laid yet.
    club.post_bytes("/api/rates/hand-work", b'{"sheet": 4}', "PUT")
    page.goto(f"{club.url}/day")
    expect(laser).to_contain_text("of it by hand")
    assert club.get("/api/desk/day")["machines"][0]["by_hand"] == 3 * 240
    page.goto(f"{club.url}/day/Club%20laser")
    # What failed is in its turn again, and called back it has gone nowhere.
    released(club, "Bram")
    expect(panel.get_by_role("heading", name=f"Now: number {number}")).to_be_visible()
    panel.get_by_role("button", name="Not cut: call it back to the desk").click()
    expect(panel.get_by_role("listitem").filter(has_text="Bram")).to_be_visible()
    assert next(one for one in club.get("/api/queue")["rows"] if one["number"] == number)["state"] == "waiting"


def test_the_panel_of_each_machine_is_turned_to(page, club):
    released(club, "Ida")
    released(club, "Odo")
    page.goto(f"{club.url}/day/Club%20laser")
    page.get_by_role("link", name="The machine's panel").click()
    expect(page.get_by_role("heading", name="Simulated machine: Club laser")).to_be_visible()
    expect(page.get_by_role("status").first).to_contain_text(re.compile(r"\d+-Ida"))
    panel = page.get_by_role("complementary", name="The machine's panel")
    panel.get_by_role("button", name="Home").click()
    expect(page.get_by_role("status").first).to_contain_text("ready")
    assert club.get("/api/device?of=club_laser")["state"] == "ready"
    assert club.get("/api/device?of=shed_router")["state"] == "off"
