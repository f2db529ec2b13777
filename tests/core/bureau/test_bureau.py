"""A cutting service: what it sees in files, what it cannot make, and its price by lines; all of it invented."""

import io
import random
import re
import zipfile

import ezdxf
import pytest
from leannotch_core.bureau.catalogue import catalogue
from leannotch_core.bureau.orders import progress
from leannotch_core.bureau.quote import Rule, SetBend, Wanted, look, quote, rules
from leannotch_core.bureau.seen import seen
from leannotch_core.bureau.zipped import MOST_FILES, drawing_in, drawings_in
from leannotch_core.drawings.drawing import BrokenFile
from leannotch_core.evaluate import evaluate
from leannotch_core.handover.against import against, made_for

from ...hostile.spoilt import WAYS
from ...projects import part, project, stock

ALUMINIUM = catalogue().offer("aluminium", 2.2)


def dxf(draw, unit=4):
    document = ezdxf.new(units=unit)
    draw(document.modelspace())
    stream = io.StringIO()
    document.write(stream)
    return stream.getvalue().encode()


def plate(space):
    """Two equal plates of 100 x 60 with a round hole of 8 mm, one bent along its middle, a loose line and a text."""
    for x in (0, 150):
        space.add_lwpolyline([(x, 0), (x + 100, 0), (x + 100, 60), (x, 60)], close=True, dxfattribs={"layer": "cut"})
        space.add_circle((x + 20, 15), 4, dxfattribs={"layer": "cut"})
    for x in (0, 150):
        space.add_line((x, 40), (x + 100, 40), dxfattribs={"layer": "bend-down"})
    space.add_line((0, 100), (50, 100), dxfattribs={"layer": "cut"})
    space.add_text("TIDE", dxfattribs={"layer": "cut"}).set_placement((10, 10))


def asked(files, **wanted):
    chosen = Wanted(**{"stock": "aluminium", "thickness": 2.2, "size_is_right": True, **wanted})
    offer = catalogue().offer(chosen.stock, chosen.thickness)
    looked = look(files, chosen, catalogue().stock(chosen.stock), offer)
    return chosen, offer, looked


def codes(files, **wanted):
    chosen, offer, looked = asked(files, **wanted)
    return {rule.code: rule for rule in rules(files, chosen, offer, looked)}


def test_a_file_is_read_with_its_parts_bends_layers_and_what_is_no_part():
    [file] = seen(dxf(plate), "plate.dxf")
    assert (file.closed, file.open, file.texts, file.unit_stated) == (4, 1, ["TIDE"], True)
    assert {layer.name: layer.purpose for layer in file.layers} == {"cut": "cut", "bend-down": "bend down"}
    [found] = file.parts
    assert (found.count, found.width, found.height, len(found.part.bends)) == (2, 100, 60, 1)
    # With the loose line that lies above them.
    assert (file.width, file.height) == (250, 100)
    [inch] = seen(dxf(plate), "plate.dxf", "in")
    assert inch.parts[0].width == pytest.approx(2540)


def test_the_price_is_that_by_hand():
    """By hand: two parts of 100 x 60 with 6 mm between, one hole and one bend each, three sets, deburred."""
    files = seen(dxf(plate), "plate.dxf")
    chosen, offer, looked = asked(files, sets=3, finishes=["deburred"])
    found = quote(chosen, offer, looked, catalogue())
    by_hand = {
        "Sheet": 6 * 106 * 66 / 1e6 * offer.square_metre,
        "Cut": 6 * (320 + 3.141592653589793 * 8) / 1e3 * offer.metre,
        "Pierces": 12 * offer.pierce,
        "Bends": 6 * offer.bend,
        "Edges deburred": 6 * 0.4,
        "Setting up": catalogue().setting_up,
    }
    assert {line.what: line.total for line in found.lines} == pytest.approx(by_hand, abs=0.005)
    assert found.total == pytest.approx(sum(by_hand.values()), abs=0.01)
    many = quote(*asked(files, sets=20)[:3], catalogue())
    one = sum(line.total for line in quote(*asked(files, sets=1)[:3], catalogue()).lines[:-1])
    assert many.total == pytest.approx(20 * one * (1 - 0.18) + catalogue().setting_up, abs=0.15)
    assert found.days == offer.days + 1


@pytest.mark.parametrize(("bent", "more"), [(0, 0), (1, 1), (2, 1)])
def test_an_order_in_which_anything_is_bent_takes_a_day_more(bent, more):
    def two(space):
        for number, x in enumerate((0, 150)):
            corners = [(x, 0), (x + 100, 0), (x + 100, 60 + number), (x, 60 + number)]
            space.add_lwpolyline(corners, close=True, dxfattribs={"layer": "cut"})
            if number < bent:
                space.add_line((x, 40), (x + 100, 40), dxfattribs={"layer": "bend-down"})

    chosen, offer, looked = asked(seen(dxf(two), "two.dxf"))
    assert quote(chosen, offer, looked, catalogue()).days == offer.days + more


def test_what_is_seen_and_what_cannot_be_made_is_told_with_the_rule():
    files = seen(dxf(plate), "plate.dxf")
    found = codes(files, size_is_right=False)
    assert {"open-lines", "live-text", "size-not-confirmed"} <= set(found)
    assert found["size-not-confirmed"].stops and not found["open-lines"].stops
    assert codes(files, stock="birch", thickness=3.0)["not-bent"].stops

    def small(space):
        space.add_lwpolyline([(0, 0), (2000, 0), (2000, 60), (0, 60)], close=True)
        space.add_circle((20, 15), 0.9)
        space.add_circle((30, 15), 4.5)
        space.add_circle((40, 15), 4.5)

    told = codes(seen(dxf(small), "long.dxf"))
    assert "1.80 mm across; the smallest in this sheet is 2.2 mm" in told["small-hole"].text
    assert (told["small-hole"].part, told["too-large"].stops, told["narrow-web"].stops) == (0, True, True)


def test_a_bend_is_set_there_and_its_part_folds_so():
    files = seen(dxf(plate), "plate.dxf")
    bend = files[0].parts[0].part.bends[0]
    _, _, looked = asked(files, bends={0: [SetBend(id=bend.id, angle=30, up=True)]})
    [laid] = looked.evaluated(0).bends
    assert (laid.bend.angle, laid.up, laid.bend.radius) == (30, True, ALUMINIUM.bends.radius)
    assert looked.evaluated(0).folded.size[2] > 5


def test_slots_made_for_another_thickness_are_told():
    def slotted(space):
        corners = [(0, 0), (100, 0), (100, 60), (72.07, 60), (72.07, 30), (69, 30), (69, 60), (32.07, 60), (32.07, 30)]
        space.add_lwpolyline([*corners, (29, 30), (29, 60), (0, 60)], close=True)

    files = seen(dxf(slotted), "divider.dxf")
    assert files[0].slots_for == pytest.approx(3.1, abs=0.05)
    told = codes(files, stock="birch", thickness=5.8)["other-thickness"].text
    assert "made for a sheet of 3.1 mm; this one measures 5.8 mm" in told
    assert "other-thickness" not in codes(files, stock="birch", thickness=3.0)


def bundle(entries):
    data = io.BytesIO()
    with zipfile.ZipFile(data, "w", zipfile.ZIP_DEFLATED) as packed:
        for name, content in entries:
            packed.writestr(name, content)
    return data.getvalue()


def test_a_whole_order_comes_as_a_zip():
    files = seen(bundle([("../../a.dxf", dxf(plate)), ("deep\\b.dxf", dxf(plate)), ("read.me", b"x")]), "order.zip")
    assert [file.name for file in files] == ["a.dxf", "b.dxf"]


@pytest.mark.parametrize(
    ("data", "says"),
    [
        (b"PK\x03\x04 nonsense", "damaged ZIP"),
        (bundle([("read.me", b"x")]), "no DXF or SVG"),
        (bundle([(f"{n}.dxf", b"x") for n in range(MOST_FILES + 1)]), f"at most {MOST_FILES}"),
        (bundle([("big.svg", b"<svg>" + b" " * 41_000_000)]), "40 MB in all"),
        (b"0\nSECTION\n2\nnonsense", "file"),
        (
            b'<?xml version="1.0"?><!DOCTYPE s [<!ENTITY x SYSTEM "file:///etc/passwd">]><svg>&x;</svg>',
            "defines entities, which is not safe",
        ),
        (dxf(lambda space: space.add_line((0, 0), (50, 0))), "no closed outline"),
    ],
)
def test_what_is_no_order_is_refused_with_a_sentence(data, says):
    with pytest.raises(BrokenFile, match=says):
        seen(data, "order.zip" if data.startswith(b"PK") else "order.svg" if data.startswith(b"<?") else "order.dxf")


@pytest.mark.parametrize("way", WAYS, ids=lambda way: way.__name__)
def test_a_zip_that_was_spoiled_is_read_or_refused_with_a_sentence(way):
    """Also where its places point before its beginning, which `zipfile` tells with errors of all kinds."""
    whole, refused = bundle([("a.svg", b"<svg/>" * 9), ("b.dxf", dxf(plate))]), 0
    for seed in range(60):
        spoilt = way(whole, random.Random(seed))
        try:
            names = drawings_in(spoilt, "order.zip")
            assert all(isinstance(drawing_in(spoilt, name, at), bytes) for at, name in enumerate(names))
        except BrokenFile as refusal:
            refused += 1
            assert re.search(r"damaged ZIP|no DXF or SVG|drawings; an order|MB once it is unpacked", str(refusal))
    assert refused


def test_an_order_goes_its_way_day_by_day_or_comes_back():
    way = [progress(3, day, 6, bent=True, finished=True, told=[]).state for day in range(3, 11)]
    assert way[0] == "received" and way[-1] == "delivered"
    assert list(dict.fromkeys(way)) == [
        "received",
        "being cut",
        "being bent",
        "being finished",
        "on its way",
        "delivered",
    ]
    told = [Rule(code="near-bend", text="A cut is too near.", stops=False)]
    back = progress(3, 4, 6, bent=False, finished=False, told=told)
    assert (back.state, back.why) == ("sent back", "A cut is too near.")


def test_a_project_is_held_against_the_catalogue_and_made_for_it():
    sheet = stock(stock_id="alu", readings=("1.99",), kerf="0.9", material="aluminium", nominal="2")
    bent = {"id": "a", "kind": "flange", "side": "top", "length": "40"}
    hole = {"id": "h", "hole": {"kind": "round", "diameter": "2"}, "x": "20", "y": "20"}
    made = project([part("arm", 100, 60, stock_id="alu", bends=[bent], cutouts=[hole])], stocks=[sheet])
    rows = against(evaluate(made), made.stocks[0], ALUMINIUM)
    off = {row.what for row in rows if not row.fits}
    assert off == {"thickness", "kerf", "smallest hole"}
    theirs = made_for(made.stocks[0], "theirs", ALUMINIUM, made.machine)
    again = evaluate(made.model_copy(update={"stocks": [theirs]}))
    assert {row.what for row in against(again, theirs, ALUMINIUM) if not row.fits} == {"smallest hole"}
    # What was typed stays: the arm is as long outside as it was.
    assert again.parts["arm"].folded.size == pytest.approx(evaluate(made).parts["arm"].folded.size)
