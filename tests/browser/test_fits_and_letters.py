"""Joints with bought parts, letters, curves and coupons, made by hand."""

import json
import re

import pytest
from ezdxf import recover
from leannotch_core.drawings.dxf import read_dxf
from leannotch_core.proof.sweep import prove
from playwright.sync_api import expect

from ..projects import ROOT
from .conftest import choose, fold
from .test_first_path import download, ledger


def new_part(maker, page, name, stock=None):
    page.get_by_role("button", name="Add a part").click()
    expect(page.get_by_role("textbox", name="Name", exact=True)).to_have_value(re.compile("Part"))
    maker.type("Name", name)
    page.get_by_label("Name", exact=True).blur()
    expect(page.get_by_role("contentinfo", name="Parts").get_by_role("button", name=name)).to_be_visible()
    if stock:
        choose(page.get_by_role("combobox", name="Stock"), stock)


def test_a_brace_is_screwed_to_a_plate_of_another_stock(maker, page, served):
    served.post("/api/projects", {"name": "Bracket"})
    maker.open("measure", "bracket")
    page.get_by_role("button", name="Add a stock").click()
    expect(page.get_by_role("textbox", name="Name", exact=True)).to_have_value("Stock 2")
    maker.type("Name", "Oak 8 mm")
    expect(page.get_by_role("button", name="Oak 8 mm").first).to_be_visible()
    maker.type("Nominal thickness", "8")
    expect(page.get_by_text("8 mm", exact=False).first).to_be_visible()
    maker.station("Shape")
    new_part(maker, page, "Plate")
    new_part(maker, page, "Brace", "Oak 8 mm")
    maker.station("Join")
    page.get_by_role("button", name="Captive nut").click()
    page.get_by_role("button", name="left edge of Brace").press("Enter")
    page.get_by_role("button", name="Face of Plate").press("Enter")
    flats = page.get_by_role("row", name=re.compile("nut, across flats"))
    expect(flats).to_contain_text("M3 nut")
    expect(flats).to_contain_text("5.600")
    choose(page.get_by_label("Thread"), "M4")
    expect(flats).to_contain_text("7.100")
    maker.type("Screw length", "8")
    expect(maker.note("M4 x 8 is too short")).to_be_visible()
    page.get_by_role("button", name=re.compile("Use M4 x")).click()
    expect(flats).to_contain_text("7.100")
    # Tabs beside the screw, blind: the new joint takes over the line, and its pockets go into the file.
    page.get_by_role("button", name="Tab and slot").click()
    page.get_by_role("button", name="left edge of Brace").press("Enter")
    page.get_by_role("button", name="Face of Plate").press("Enter")
    maker.type("Tab width", "9")
    choose(page.get_by_label("Tabs go"), "into blind pockets")
    thick = page.get_by_role("row", name=re.compile("tab, its thickness"))
    expect(thick).to_contain_text("8.100")
    maker.station("Measure")
    page.get_by_role("button", name="Oak 8 mm").first.click()
    maker.type("Add a reading", "7.86")
    expect(page.get_by_text("mean of 1 ·")).to_be_visible()
    maker.station("Join")
    expect(thick).to_contain_text("7.960")
    proved_and_handed_over(maker, page)


def proved_and_handed_over(maker, page):
    maker.station("Lay out")
    choose(page.get_by_label("Look for"), "2 seconds")
    page.get_by_role("region", name="Layout").get_by_role("button", name="Lay out").click()
    expect(page.get_by_text("2 of 2 parts moved.")).to_be_visible(timeout=20_000)
    maker.station("Prove")
    page.get_by_role("region", name="Proof").get_by_role("button", name="Prove").click()
    expect(page.get_by_text("All 2 parts come free as meant.")).to_be_visible(timeout=20_000)
    page.get_by_role("tab", name="Fit ledger with proved gaps").click()
    expect(page.get_by_role("row", name=re.compile("tab, its thickness"))).not_to_contain_text("not measured")
    proved = ledger(page)
    assert len(proved) == 5
    # The gaps stand behind what corners take or add of them.
    assert [float(row[7]) for row in proved] == pytest.approx([float(row[6]) for row in proved], abs=0.0011)
    maker.station("Hand over")
    path = download(page, "as DXF")
    layers = {e.dxf.layer for e in recover.readfile(path)[0].modelspace()}
    assert {layer.split("-")[0] for layer in layers} == {"cut", "pocket", "score"}


def test_letters_that_are_cut_out_keep_their_islands_by_bridges(maker, page, served):
    served.post("/api/projects", {"name": "Sign"})
    maker.open("shape", "sign")
    new_part(maker, page, "Sign")
    choose(page.get_by_label("Shape", exact=True), "ellipse")
    maker.put("Text")
    maker.type("Text", "QUAY")
    choose(page.get_by_label("Font"), "plain")
    expect(maker.note("2 islands of its letters fall out")).to_be_visible()
    page.get_by_role("button", name=re.compile("Bridges of")).click()
    expect(maker.note("fall out")).to_have_count(0)
    expect(page.get_by_label("Bridges to islands")).not_to_have_value("0")
    maker.station("Lay out")
    choose(page.get_by_label("Look for"), "2 seconds")
    page.get_by_role("region", name="Layout").get_by_role("button", name="Lay out").click()
    expect(page.get_by_text("1 of 1 parts moved.")).to_be_visible(timeout=20_000)
    maker.station("Hand over")
    pieces = prove(read_dxf(download(page, "as DXF").read_bytes()), 0.16).pieces
    [sign] = [piece for piece in pieces if piece.kind == "part"]
    assert sorted((sign.width, sign.height)) == pytest.approx([60, 100], abs=0.02)
    # Every slug is a stroke of a letter: none is an island, all hang together with nothing else.
    assert len([piece for piece in pieces if piece.kind == "slug"]) >= 4


def test_a_point_of_a_curve_is_dragged(maker, page, served):
    served.post("/api/projects", {"name": "Fin"})
    maker.open("shape", "fin")
    new_part(maker, page, "Fin")
    choose(page.get_by_label("Shape", exact=True), "curve through points")
    point = page.get_by_role("button", name="Point 4 of the curve")
    at = point.bounding_box()
    page.mouse.move(at["x"] + 5, at["y"] + 5)
    page.mouse.down()
    page.mouse.move(at["x"] + 45, at["y"] - 55, steps=4)
    page.mouse.up()
    expect(page.get_by_label("Height", exact=True)).not_to_have_value("60")
    assert float(page.get_by_label("Height", exact=True).input_value()) > 62
    maker.type("Point 4, across", "50")
    expect(page.get_by_label("Point 4, across")).to_have_value("50")
    page.get_by_role("button", name="Remove point 5").click()
    expect(page.get_by_role("button", name=re.compile("of the curve"))).to_have_count(4)


def test_what_a_coupon_showed_is_taken_over_here_and_in_another_project(maker, page, served):
    stand = json.loads((ROOT / "demo" / "lens_stand.json").read_bytes())
    stand["stocks"][0]["name"] = "Ply from the shed"
    here, there = (served.post("/api/projects/open", stand)["slug"] for _ in range(2))
    maker.open("measure", here)
    fold(page, "Kerf and fits from a coupon")
    choose(page.get_by_role("region", name="What came out").get_by_label("Kerf"), "from the square and its hole")
    maker.type("Hole measures", "20.19")
    maker.type("Square measures", "19.81")
    for clearance, feel in (("0", "stiff"), ("0.1", "firm"), ("0.2", "holds until tapped"), ("0.3", "falls apart")):
        page.get_by_role("radiogroup", name=f"The pair marked {clearance}", exact=True).get_by_label(feel).press(" ")
    page.get_by_role("button", name="Take over what came out").click()
    expect(maker.facts()).to_contain_text("kerf 0.19")
    row = page.get_by_role("group", name="Coupons of this stock").get_by_role("row").nth(1)
    for value in ("0.190", "0.030", "0.130", "0.230", "0.330"):
        expect(row).to_contain_text(value)
    maker.open("join", there)
    expect(maker.facts()).to_contain_text("kerf 0.16")
    expect(maker.note("gave a kerf of 0.19 mm")).to_be_visible()
    page.get_by_role("button", name=re.compile("Take the values of")).click()
    expect(maker.facts()).to_contain_text("kerf 0.19")
    expect(page.get_by_role("row", name=re.compile("tab, its thickness, sliding")).first).to_contain_text("0.230")
