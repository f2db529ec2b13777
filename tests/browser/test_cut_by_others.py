"""Those who cut for others: a part ordered from the service, and a panel that goes through the operator's queue."""

import re

from playwright.sync_api import expect

from .conftest import choose


def test_a_rest_is_made_for_the_service_priced_by_lines_and_ordered(maker, page, served):
    slug = served.post("/api/projects/tide-gauge-rest/duplicate", {})["slug"]
    maker.open("hand-over", slug)
    page.get_by_role("button", name="A cutting service").click()
    held = page.get_by_role("group", name="Held against their catalogue")
    # The service's sheet is 0.2 mm thicker than the one in hand.
    expect(held.get_by_role("row").filter(has_text="thickness")).to_contain_text("1.99 mm")
    expect(held.get_by_role("row").filter(has_text="thickness")).to_contain_text("2.20 mm")
    page.get_by_role("button", name="Make a variant for their sheet").click()
    expect(maker.facts()).to_contain_text("2.2 mm")
    variant = page.url.rstrip("/").split("/")[-2]
    assert served.get(f"/api/projects/{variant}")["variant_of"] == slug
    choose(page.get_by_label("Look for"), "2 seconds")
    page.get_by_role("region", name="Layout").get_by_role("button", name=re.compile("Lay out")).first.click()
    expect(page.get_by_text("Sheet 1: 1500 × 1000 mm")).to_be_visible()
    maker.station("Hand over")
    page.get_by_role("button", name="Send sheet 1", exact=True).click()
    order = page.get_by_role("complementary", name="The order")
    expect(order.get_by_text("40.0 mm (1.575 in)")).to_be_visible()
    expect(page.get_by_role("button", name=re.compile("^Order it"))).to_be_disabled()
    order.get_by_text("These sizes are right").click()
    choose(page.get_by_label("Material"), "Aluminium sheet")
    choose(page.get_by_label("Thickness, as it measures"), "2.2 mm")
    order.get_by_role("button", name="bend 2", exact=True).click()
    maker.type("Angle of bend 2, degrees from flat", "75")
    expect(page.get_by_text("bend 2: 75° up")).to_be_visible()
    order.get_by_text("Edges deburred").click()
    price = page.get_by_role("group", name="The price by its lines")
    expect(price.get_by_role("row").filter(has_text="Edges deburred")).to_contain_text("0.40")
    expect(price.get_by_role("row").filter(has_text="Bends")).to_contain_text("3")
    cells = price.get_by_role("row").all_inner_texts()
    sums = [float(found[-1]) for row in cells if (found := re.findall(r"-?\d+\.\d\d", row))]
    assert abs(sum(sums[:-1]) - sums[-1]) < 0.02
    page.get_by_role("button", name=re.compile("^Order it")).click()
    rows = page.get_by_role("group", name="Orders")
    expect(rows.get_by_text("received")).to_be_visible()
    page.get_by_role("button", name="Let a day go by").click()
    expect(page.get_by_text("It is day 2 there.")).to_be_visible()
    maker.open("hand-over", variant)
    expect(page.get_by_role("list", name="What was sent")).to_contain_text(f"{sums[-1]:.2f}")


def test_a_panel_is_handed_in_returned_and_cut_with_another_one(maker, page, served):
    slug = served.post("/api/projects/stake-tags/duplicate", {})["slug"]
    maker.open("hand-over", slug)
    page.get_by_role("button", name="Hand in to the operator").click()
    maker.type("Whose it is", "Wil")
    page.get_by_role("button", name="Hand in sheet 1").click()
    told = page.get_by_text(re.compile(r"Handed in as number \d+\."))
    expect(told).to_be_visible()
    number = int(re.search(r"\d+", told.inner_text())[0])
    page.goto("/queue")
    queue = page.get_by_role("group", name="Queue")
    queue.get_by_role("row").filter(has_text="Wil").click()
    looked = page.get_by_role("complementary", name="What is looked at")
    expect(looked.get_by_role("heading", name=f"Number {number}, Wil")).to_be_visible()
    # Checks ticked one right after the other are all stored, before what is done after them.
    checks = looked.get_by_role("checkbox")
    for tick in checks.all():
        tick.press(" ")
    looked.get_by_label("Why it goes back").fill("a gap of 2 mm is too narrow")
    looked.get_by_role("button", name="Return it").click()
    expect(looked.get_by_text("sheet 1; returned: a gap of 2 mm is too narrow")).to_be_visible()
    kept = served.get(f"/api/queue/{number}")
    assert kept["ticks"] == sorted(check["code"] for check in kept["sheet"]["checks"])
    maker.open("hand-over", slug)
    handed = page.get_by_role("list", name="What was handed in")
    expect(handed).to_contain_text("a gap of 2 mm is too narrow")
    # By key: what is above it may still grow while a mouse is pressed.
    handed.get_by_role("button", name=f"Hand number {number} in anew").press("Enter")
    page.get_by_role("button", name=re.compile("in anew, for number")).click()
    expect(handed).to_contain_text(f"replaced by {number + 1}")
    # Laid together with the tags of another maker, and run.
    page.goto("/queue")
    ida = next(row for row in served.get("/api/queue")["rows"] if row["owner"] == "Ida")["number"]
    for one in (ida, number + 1):
        queue.get_by_text(re.compile(f"^{one}$")).first.wait_for()
        page.get_by_label(f"Number {one}", exact=True).first.click()
    page.get_by_role("button", name="Lay 2 together on one sheet").click()
    gather = looked.get_by_role("listitem").filter(has_text="Wil")
    expect(gather.first).to_be_visible()
    expect(looked.get_by_role("listitem").filter(has_text="Ida").first).to_be_visible()
    looked.get_by_role("button", name="Release them all").click()
    expect(page.get_by_role("heading", name=re.compile("Simulated machine"))).to_be_visible()
    expect(page.get_by_role("status")).to_contain_text("together-")
    states = {row["number"]: row["state"] for row in served.get("/api/queue")["rows"]}
    assert (states[ida], states[number + 1], states[number]) == ("released", "released", "replaced")
    # Something is wrong at the machine: they are called back, and each waits for itself again.
    page.goto("/queue")
    page.get_by_role("button", name=f"Numbers {ida}, {number + 1} on one sheet").click()
    _call_back_and_look_at_once(page, looked, f"Numbers {ida}, {number + 1} on one sheet")
    looked.get_by_role("button", name="Lay them alone again").click()
    expect(page.get_by_role("list", name="Laid together")).to_have_count(0)
    queue.get_by_role("row").filter(has_text="Wil").click()
    expect(looked.get_by_role("button", name="Release to the machine")).to_be_visible()


def _call_back_and_look_at_once(page, looked, joint):
    """The next press comes before the answer to this one: it takes its turn, and shows what the step has left."""
    held = []

    def hold(route):
        held.append(route)

    page.route("**/call-back", hold)
    looked.get_by_role("button", name="Call it back to the desk").click()
    page.get_by_role("button", name=joint).click()
    expect(looked.get_by_role("button", name="Call it back to the desk")).to_be_visible()
    held.pop().continue_()


def test_the_operator_sees_what_was_deleted_and_has_it_back(page, served):
    slug = served.post("/api/projects/stake-tags/duplicate", {})["slug"]
    name = served.get(f"/api/projects/{slug}")["document"]["name"]
    served.delete(f"/api/projects/{slug}")
    page.goto("/queue")
    page.get_by_role("button", name=re.compile("Deleted lately")).click()
    lately = page.get_by_role("list", name="Deleted lately")
    here = lately.get_by_role("listitem").filter(has_text=name)
    expect(here.first).to_be_visible()
    before = here.count()
    here.first.get_by_role("button", name=f"Have it back: {name}").click()
    expect(here).to_have_count(before - 1)
    assert slug in {project["slug"] for project in served.get("/api/projects")}


def test_a_sheet_that_nobody_waits_for_is_deleted_and_had_back(page, served):
    slug = served.post("/api/projects/stake-tags/duplicate", {})["slug"]
    [one] = served.post(
        f"/api/projects/{slug}/hand-in", {"sheets": [1], "owner": "Ruth", "group": "dune walk", "key": "a"}
    )
    body = {"version": one["version"], "why": "a gap of 2 mm is too narrow"}
    served.post(f"/api/queue/{one['number']}/return", body)
    page.goto("/queue")
    choose(page.get_by_label("Shown"), "returned")
    row = page.get_by_role("group", name="Queue").get_by_role("row").filter(has_text="Ruth")
    row.click()
    page.get_by_role("button", name="Delete it").click()
    expect(row).to_have_count(0)
    page.get_by_role("button", name=re.compile("Deleted lately")).click()
    page.get_by_role("button", name=f"Have it back: number {one['number']}").click()
    expect(row).to_be_visible()


def test_a_starter_of_ones_own_is_made_and_begun_with_another_number(maker, page, served):
    slug = served.post("/api/projects/sorting-tray/duplicate", {})["slug"]
    maker.open("hand-over", slug)
    page.get_by_role("button", name="Share", exact=True).click()
    maker.type("Called", "Shelf tray")
    page.get_by_text("tray_length", exact=True).click()
    maker.type("Most of tray_length, mm", "320")
    page.get_by_role("button", name="Make it a starter").click()
    own = page.get_by_role("article", name="Shelf tray")
    expect(own.get_by_text("320 mm or less")).to_be_visible()
    field = own.get_by_label("tray length")
    field.fill("400")
    field.press("Enter")
    own.get_by_role("button", name="Begin with Shelf tray").click()
    expect(page.get_by_role("alert")).to_contain_text("tray length is 400 mm; it may be at most 320 mm")
    field.fill("300")
    field.press("Enter")
    own.get_by_role("button", name="Begin with Shelf tray").click()
    expect(maker.facts()).to_contain_text("Shelf tray")
    fresh = page.url.rstrip("/").split("/")[-2]
    assert {part["id"]: part["width"] for part in served.get(f"/api/projects/{fresh}")["parts"]}["floor"] == 300
    page.goto(f"/look/{fresh}")
    seen = page.frame_locator("iframe")
    expect(seen.get_by_role("figure").filter(has_text="Floor").first).to_contain_text("300 mm × 180 mm")
    # It is turned, and pulled apart, with nothing but itself.
    expect(seen.locator("svg.on")).to_have_attribute("data-side", "0")
    seen.get_by_label("Turned").press("ArrowRight")
    expect(seen.locator("svg.on")).to_have_attribute("data-side", "1")
    seen.get_by_label("pulled apart").check()
    expect(seen.locator("svg.on")).to_have_attribute("data-apart", "1")
    with page.expect_download() as waiting:
        page.get_by_role("link", name="Save it as one file (HTML)").click()
    assert waiting.value.suggested_filename == f"{fresh}.html"
