"""From a measured sheet to a proved file, as a maker does it."""

import re

import pytest
from ezdxf import recover
from leannotch_core.drawings.svg import read_svg
from leannotch_core.proof.sweep import prove
from playwright.sync_api import expect

from .conftest import choose, fold, listed


def ledger(page):
    rows = page.get_by_role("group", name="Fit ledger").get_by_role("row").all()
    return [[cell.inner_text() for cell in row.get_by_role("cell").all()] for row in rows[1:]]


def download(page, button):
    with page.expect_download() as waiting:
        page.get_by_role("button", name=button).click()
    return waiting.value.path()


def parts_of(path, kerf):
    pieces = prove(read_svg(path.read_bytes()), kerf).pieces
    return sorted((round(p.width, 2), round(p.height, 2)) for p in pieces if p.kind == "part")


def test_the_point_of_it_all(maker, page):
    """Another sheet in the hand: everything follows, and the tray's outside stays."""
    maker.open("shape")
    expect(maker.facts()).to_contain_text("3.07 mm")
    page.get_by_role("button", name="Thickness").click()
    maker.type("Readings", "5.02 4.98 5.01 4.99")
    expect(page.get_by_role("button", name="Thickness")).to_have_text("5 mm")
    page.keyboard.press("Escape")
    maker.part("Divider lengthways")
    expect(page.get_by_text("= 229.7 mm")).to_be_visible()

    maker.station("Join")
    rows = ledger(page)
    assert {row[7] for row in rows if row[1] == "Floor"} == {"5.000"}
    assert {row[5] for row in rows} == {"0.100", "0.200"}

    maker.station("Lay out")
    expect(maker.note("The layout is out of date: Floor")).to_be_visible()
    choose(page.get_by_label("Look for"), "2 seconds")
    page.get_by_role("button", name="Lay out again").click()
    expect(page.get_by_role("progressbar")).to_be_visible()
    expect(page.get_by_text(re.compile("parts moved|Nothing moved"))).to_be_visible(timeout=20_000)
    expect(maker.note("out of date")).to_have_count(0)

    maker.station("Prove")
    expect(page.get_by_text("All 8 parts come free as meant.")).to_be_visible()
    expect(page.get_by_role("row", name=re.compile("Floor 1")).first).to_contain_text("240.000 × 180.000")
    page.get_by_role("tab", name="Fit ledger with proved gaps").click()
    proved = ledger(page)
    assert proved and all(row[5] == row[6] for row in proved), proved

    maker.station("Hand over")
    sizes = parts_of(download(page, "Save sheet 1 as SVG"), 0.16)
    upright = sorted(tuple(sorted(size)) for size in sizes)
    assert upright == [(45, 180), (45, 180), (45, 240), (45, 240), (180, 240)]

    for _ in range(2):
        page.get_by_role("button", name="Undo").click()
    maker.part("Floor")
    expect(page.get_by_role("button", name="Thickness")).to_have_text("3.07 mm")


def test_a_part_of_ones_own_from_nothing_to_a_file(maker, page):
    page.goto("/")
    page.get_by_label("New project").fill("Stake tags")
    page.get_by_role("button", name="Begin").click()
    page.get_by_role("button", name="Add a part").click()
    maker.type("Name", "Tag")
    maker.type("Width", "1 in")
    expect(page.get_by_text("= 25.4 mm")).to_be_visible()
    maker.type("Width", "25")
    maker.type("Height", "20*3")
    fold(page, "Its four corners")
    choose(page.get_by_label("top left corner", exact=True), "round")
    maker.type("Size of the top left corner", "10")
    choose(page.get_by_label("top right corner", exact=True), "round")
    refused = maker.type("Size of the top right corner", "16")
    expect(page.get_by_role("alert")).to_contain_text("the largest that fits is 15 mm")
    page.get_by_role("button", name="Use 15 mm").click()
    expect(refused).to_have_value("15")
    maker.put("Round hole")
    maker.type("Diameter", "5")
    page.get_by_role("button", name="What it is measured from").click()
    choose(page.get_by_label("Placed from", exact=True), "top left")
    maker.type("Distance across", "width/2")
    maker.type("Distance up", "8")
    page.get_by_role("button", name="Turned, repeated, called").click()
    page.get_by_label("In a row").fill("1")
    maker.type("How many", "3")
    page.get_by_label("How many").blur()
    expect(maker.facts()).to_contain_text("3 parts")

    page.reload()
    expect(page.get_by_label("Height", exact=True)).to_have_value("20*3")
    maker.station("Lay out")
    choose(page.get_by_label("Look for"), "2 seconds")
    page.get_by_role("region", name="Layout").get_by_role("button", name="Lay out").click()
    expect(page.get_by_text("3 of 3 parts moved.")).to_be_visible(timeout=20_000)
    maker.station("Hand over")
    page.get_by_role("button", name="How files are written").click()
    page.get_by_text("left out").click()
    expect(page.get_by_text("score, ")).to_have_count(0)
    path = download(page, "as DXF")
    space = recover.readfile(path)[0].modelspace()
    assert sorted(e.dxftype() for e in space) == ["CIRCLE"] * 3 + ["LWPOLYLINE"] * 3
    circle = space.query("CIRCLE").first
    assert circle.dxf.radius == pytest.approx(2.5 - 0.16 / 2) and circle.dxf.layer == "cut"
    bulges = [b for *_, b in space.query("LWPOLYLINE").first.get_points("xyb") if b]
    assert len(bulges) == 2


def test_joining_two_edges_and_two_parts_by_hand(maker, page, served):
    served.post("/api/projects", {"name": "Bench"})
    maker.open("shape", "bench")
    for name in ("Shelf", "Upright"):
        page.get_by_role("button", name="Add a part").click()
        expect(page.get_by_role("textbox", name="Name", exact=True)).to_have_value(re.compile("Part"))
        maker.type("Name", name)
        page.get_by_label("Name", exact=True).blur()
        expect(page.get_by_role("contentinfo", name="Parts").get_by_role("button", name=name)).to_be_visible()
    maker.station("Join")
    page.get_by_role("button", name="Finger joint").click()
    page.get_by_role("button", name="right edge of Shelf").press("Enter")
    expect(page.get_by_text("Pick the edge that meets it.")).to_be_visible()
    page.get_by_role("button", name="left edge of Upright").press("Enter")
    expect(page.get_by_role("row", name=re.compile("finger, glue Shelf"))).to_be_visible()
    maker.type("Finger width, about", "12")
    choose(page.get_by_label("Starts with a finger"), "Upright")
    choose(page.get_by_role("region", name="Joints").get_by_label("Fit", exact=True), "press")
    row = page.get_by_role("row", name=re.compile("finger, press Upright"))
    expect(row).to_contain_text("11.975")
    expect(row).to_contain_text("-0.050")
    choose(page.get_by_role("region", name="Joints").get_by_label("Fit", exact=True), "glue, as the project")
    expect(page.get_by_role("row", name=re.compile("finger, glue Upright"))).to_contain_text("0.100")

    page.get_by_role("button", name="Cross-lap").click()
    for name in ("Shelf", "Upright"):
        page.get_by_role("button", name=f"top edge of {name}").dispatch_event("pointerdown")
    expect(page.get_by_role("row", name=re.compile("cross-lap, glue Shelf"))).to_contain_text("3.170")
    maker.type("its slot at", "width/4")
    expect(page.get_by_text("= 25 mm")).to_be_visible()
    share = maker.type("Share cut from Shelf", "1.2")
    expect(maker.note("lies between 0 and 1")).to_be_visible()
    page.get_by_role("button", name="Halve it").click()
    expect(share).to_have_value("1/2")
    page.get_by_role("button", name="Remove joint").click()
    expect(page.get_by_role("row", name=re.compile("cross-lap"))).to_have_count(0)

    page.get_by_role("button", name="Tab and slot").click()
    page.get_by_role("button", name="left edge of Upright").press("Enter")
    page.get_by_role("button", name="Face of Shelf").press("Enter")
    maker.type("Tab width", "10")
    expect(page.get_by_role("row", name=re.compile("tab, its width, glue Shelf"))).to_contain_text("10.100")
    expect(page.get_by_role("row", name=re.compile("tab, its thickness, glue Shelf"))).to_contain_text("3.170")
    maker.type("runs at (degrees)", "90")
    expect(maker.note("A slot reaches")).to_be_visible()
    page.get_by_role("button", name="Undo").click()
    page.get_by_role("button", name="Splice").click()
    page.get_by_role("button", name="top edge of Shelf").press("Enter")
    page.get_by_role("button", name="bottom edge of Upright").press("Enter")
    choose(page.get_by_label("Shape"), "round knob")
    maker.type("Size of a key", "20")
    expect(page.get_by_role("row", name=re.compile("splice, round knob, glue Upright"))).to_contain_text("20.050")

    choose(page.get_by_label("Fit of all joints"), "loose")
    expect(page.get_by_role("row", name=re.compile("tab, its thickness, loose Shelf"))).to_contain_text("0.300")
    expect(page.get_by_role("row", name=re.compile("finger, loose"))).to_have_count(2)


def test_moving_a_cut_out_never_waits_for_the_server(maker, page):
    maker.open("shape")
    maker.part("End wall")
    grip = page.get_by_role("button", name="obround 1").first
    box = grip.bounding_box()
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    calls = []
    page.on("request", lambda request: calls.append(request.url) if "/api/" in request.url else None)
    page.evaluate(
        """() => { window.frames_ = []; let last = performance.now()
        const tick = (now) => { window.frames_.push(now - last); last = now; requestAnimationFrame(tick) }
        requestAnimationFrame(tick) }"""
    )
    page.mouse.move(x, y)
    page.mouse.down()
    box = grip.bounding_box()
    for step in range(40):
        page.mouse.move(x + step, y + step / 4)
    assert calls == []
    moved = grip.bounding_box()
    assert moved["x"] - box["x"] == pytest.approx(39, abs=2)
    frames = sorted(page.evaluate("window.frames_"))
    print(f"frame time while dragging: median {frames[len(frames) // 2]:.1f} ms, longest {frames[-1]:.1f} ms")
    page.mouse.up()
    expect(page.get_by_label("Distance across")).not_to_have_value("0")
    # One edit for the whole way; what is told beside it is asked for afterwards, sooner or later.
    assert sum(call.endswith("/edit") for call in calls) == 1
    across = float(page.get_by_label("Distance across").input_value())
    # Nothing drew it anywhere: it lies at a whole number, as a hand would have typed it.
    assert across == round(across) and across > 3
    page.keyboard.press("Shift+ArrowLeft")
    expect(page.get_by_label("Distance across")).to_have_value(f"{across - 10:.2f}".rstrip("0").rstrip("."))
    for _ in range(2):
        page.keyboard.press("Control+z")
    expect(page.get_by_label("Distance across")).to_have_value("0")


def test_a_number_is_stepped_and_the_drawing_follows(maker, page, served, tray):
    maker.open("shape")
    maker.part("End wall")
    page.get_by_role("button", name="obround 1").first.press("Enter")
    field = page.get_by_label("Distance across")
    grip = page.get_by_role("button", name="obround 1").first
    before = grip.bounding_box()["x"]
    field.focus()
    for key in ("ArrowUp", "ArrowUp", "Shift+ArrowUp"):
        field.press(key)
    expect(field).to_have_value("12")
    # Each rest is one edit; together they come to what is shown, and the caret stays where it was.
    page.wait_for_function("([box, x]) => box.getBoundingClientRect().x > x + 20", arg=[grip.element_handle(), before])
    expect(field).to_be_focused()
    document = served.get(f"/api/projects/{tray}")["document"]
    [wall] = [one for one in document["parts"] if one["name"] == "End wall"]
    assert wall["cutouts"][0]["x"]["text"] == "12"


def test_placing_by_hand_marks_what_is_wrong_and_hands_over_only_when_told(maker, page):
    maker.open("lay-out")
    wall = page.get_by_role("button", name="End wall 1 on sheet 1")
    box = wall.bounding_box()
    page.mouse.move(box["x"] + 8, box["y"] + 30)
    page.mouse.down()
    page.mouse.move(box["x"] - 150, box["y"] + 30, steps=5)
    page.mouse.up()
    expect(maker.note("overlap by")).to_be_visible()
    maker.station("Hand over")
    page.get_by_role("button", name="as DXF").click()
    expect(page.get_by_role("alert")).to_contain_text("The proof of this file failed")
    page.get_by_role("checkbox", name="Hand it over all the same").press(" ")
    path = download(page, "as DXF")
    assert len(recover.readfile(path)[0].modelspace().query('LWPOLYLINE[layer=="cut"]')) == 7
    maker.station("Lay out")
    page.get_by_role("button", name="End wall 1 on sheet 1").focus()
    maker.type("Across", "400 - 2 in")
    expect(maker.note("End wall 1 reaches")).to_have_count(0)
    for _ in range(2):
        page.get_by_role("button", name="Undo").click()
    expect(maker.note("overlap by")).to_have_count(0)


def test_two_windows_on_one_project(maker, page, browser, served):
    maker.open("shape")
    other = browser.new_context(base_url=served.url).new_page()
    other.goto(f"/projects/{maker.tray}/shape")
    # The other window has the project as it was before.
    expect(other.get_by_label("wall_height", exact=True)).to_have_value("45")
    maker.type("wall_height", "50")
    expect(page.get_by_label("wall_height", exact=True)).to_have_value("50")
    expect(page.get_by_role("button", name="Undo")).to_have_attribute("title", re.compile("wall_height = 50"))
    field = other.get_by_label("wall_height", exact=True)
    field.fill("60")
    field.press("Enter")
    expect(other.get_by_text("changed in another window").first).to_be_visible()
    expect(other.get_by_role("button", name="Undo")).to_have_attribute("title", re.compile("wall_height = 50"))
    other.context.close()


def test_measuring_a_stock(maker, page):
    maker.open("measure")
    field = maker.type("Add a reading", "0.125 in")
    expect(field).to_have_value("")
    expect(field).to_be_focused()
    expect(page.get_by_text("mean of 6 ·")).to_be_visible()
    page.get_by_role("button", name="Remove reading 6").click()
    expect(page.get_by_text("mean of 5 ·")).to_be_visible()
    page.get_by_label("from a plug and its hole").press(" ")
    maker.type("Hole", "20.3")
    maker.type("Plug", "19.9")
    expect(page.get_by_role("button", name="Kerf", exact=True)).to_have_text("kerf 0.2")
    fold(page, "Kerf and fits from a coupon")
    page.get_by_role("button", name="Make a fit comb").click()
    expect(maker.facts()).to_contain_text("Fit coupon for Birch ply 3 mm")
    expect(maker.facts()).to_contain_text("2 parts on 1 sheet")
    maker.station("Shape")
    maker.put("Text")
    maker.type("Text", "club")
    maker.type("Cap height", "0")
    expect(page.get_by_role("alert")).to_contain_text("must be more than 0")
    maker.open("measure")
    bad = maker.type("Reading 1", "thick")
    expect(page.get_by_role("alert")).to_contain_text("uses the name “thick”")
    bad.press("Escape")
    expect(bad).to_have_value("3.05")
    page.get_by_role("button", name="Show in inches").click()
    expect(page.get_by_role("button", name="Thickness")).to_have_text("0.121 in")
    page.get_by_role("button", name="Show in mm").click()
    expect(page.get_by_role("button", name="Thickness")).to_have_text("3.07 mm")
    page.keyboard.press("?")
    expect(page.get_by_text("undo, redo")).to_be_visible()


def test_a_project_saved_to_a_file_is_opened_again(page, tmp_path):
    page.goto("/")
    with page.expect_download() as waiting:
        listed(page, "Sorting tray").last.get_by_role("link", name="Save to file").click()
    path = tmp_path / "tray.notch.json"
    waiting.value.save_as(path)
    page.get_by_label("Open a saved project file").locator("input[type=file]").set_input_files(path)
    expect(page).to_have_url(re.compile("/projects/sorting-tray-[0-9]+/shape"))
    page.goto("/")
    path.write_text("not a project")
    page.get_by_label("Open a saved project file").locator("input[type=file]").set_input_files(path)
    expect(page.get_by_role("alert")).to_contain_text("is not a Lean Notch project")


def test_a_fact_opens_with_its_number_chosen_and_what_is_typed_there_stays_there(maker, page):
    maker.open("shape")
    page.get_by_role("button", name="Thickness").click()
    readings = page.get_by_label("Readings")
    expect(readings).to_be_focused()
    # Digits go to stations elsewhere on the page; here they are a number, and Escape gives it up.
    page.keyboard.type("0.115")
    expect(readings).to_have_value("0.115")
    page.keyboard.press("Escape")
    expect(readings).to_have_count(0)
    expect(page.get_by_role("button", name="Thickness")).to_be_focused()
    expect(page).to_have_url(re.compile("/shape$"))
    expect(page.get_by_role("button", name="Thickness")).to_have_text("3.07 mm")
    page.keyboard.press("Enter")
    expect(readings).to_be_focused()
    page.keyboard.type("3.11 3.13")
    page.keyboard.press("Enter")
    expect(page.get_by_role("button", name="Thickness")).to_have_text("3.12 mm")
    page.keyboard.press("Escape")
    page.get_by_role("button", name="Project name").click()
    page.keyboard.type("Tray of the bay")
    page.keyboard.press("Escape")
    expect(page.get_by_role("button", name="Project name")).to_have_text("Sorting tray")
