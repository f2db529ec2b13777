"""Documents of each earlier version, carried forward a step at a time; and what files of ours say of themselves."""

import pytest
from leannotch_core.document.carried import carried_forward
from leannotch_core.document.statement import statement

KERF = {"how": "typed", "width": "0.2"}


def stocks_of(*stocks):
    return carried_forward({"version": 2, "stocks": list(stocks)})


def test_names_of_machines_become_machines_with_ids_of_letters():
    """Names that are one by their letters, that begin with a digit, or that have no letter at all."""
    names = ["Club Laser", "club-laser", "40 W laser", "—", " ", None]
    raw = stocks_of(*({"id": f"s{n}", "machine": name, "kerf": KERF} for n, name in enumerate(names)))
    ids = [stock["on"][0]["machine"] if "on" in stock else None for stock in raw["stocks"]]
    assert ids == ["club_laser", "club_laser_2", "machine_40_w_laser", "machine", None, None]
    assert [machine["name"] for machine in raw["machines"]] == ["Club Laser", "club-laser", "40 W laser", "—"]
    assert raw["machine"] == "club_laser" and not any("machine" in stock for stock in raw["stocks"])
    assert len(carried_forward({"version": 2, "stocks": [{"machine": "x" * 90}]})["machines"][0]["name"]) == 80


def test_what_coupons_showed_goes_with_the_machine_that_they_were_cut_on():
    history = [{"what": "kerf", "machine": machine} for machine in ("Laser", "Other", "", None)]
    [stock] = stocks_of({"id": "s", "machine": "Laser", "kerf": KERF, "history": history})["stocks"]
    assert len(stock["history"]) == 4 and stock["history"][0] == {"what": "kerf"}
    assert stock["on"] == [{"kerf": KERF, "machine": "laser", "history": [{"what": "kerf"}] * 3}]
    # Without a machine nothing is anybody's; what cannot be understood is left for the model to refuse.
    raw = stocks_of({"id": "s", "kerf": KERF}, {"id": "t", "machine": "Laser", "history": [3]})
    assert "machines" not in raw and all("on" not in stock for stock in raw["stocks"])


def test_marked_texts_become_shapes_with_what_was_typed_of_them():
    part = {
        "id": "a",
        "cutouts": [{"id": "text", "repeat": {"columns": 3}}, {"id": "b", "repeat": None}],
        "marks": [{"text": "A", "x": "1", "height": "9"}, {"text": "B", "operation": "engrave", "turn": "90"}],
    }
    [part] = carried_forward({"version": 3, "parts": [part]})["parts"]
    first, second = part["cutouts"][2:]
    assert part["cutouts"][:2] == [
        {"id": "text", "repeat": {"kind": "grid", "columns": 3}},
        {"id": "b", "repeat": None},
    ]
    assert first["hole"] == {"kind": "text", "font": "single line", "height": "9", "text": "A"}
    assert (first["x"], first["does"], "y" in first, "turn" in first) == ("1", "score", False, False)
    assert (second["does"], second["turn"], second["hole"]["height"]) == ("engrave", "90", "4")
    assert "marks" not in part and len({"text", "b", first["id"], second["id"]}) == 4
    bare = {"id": "b", "cutouts": 7, "marks": [{}]}
    assert carried_forward({"version": 3, "parts": [bare, 5]})["parts"] == [{"id": "b", "cutouts": 7}, 5]


def test_shapes_of_a_starter_are_known_by_their_ids_alone_in_version_1():
    cuts = [{"id": name} for name in ("lift_1", "thumb", "own")]
    parts = [{"id": "tray_floor", "starter": "tray", "cutouts": cuts}, {"id": "lid", "cutouts": cuts}]
    raw = {"version": 1, "starters": [{"id": "tray"}, 4], "parts": parts, "names": [{"name": "tray_l"}, {"name": "l"}]}
    raw = carried_forward(raw)
    assert [cut["starter"] for cut in raw["parts"][0]["cutouts"]] == ["tray", "tray", ""]
    assert [cut["starter"] for cut in raw["parts"][1]["cutouts"]] == ["", "", ""]
    assert [name["starter"] for name in raw["names"]] == ["tray", ""] and raw["version"] == 6


@pytest.mark.parametrize(("unit", "sizes"), [("mm", "Sizes in millimetres."), ("in", "Sizes in inches.")])
def test_a_file_says_its_unit_and_whose_the_kerf_is(unit, sizes):
    assert statement(0.16, True, unit).startswith(f"{sizes} Kerf of 0.16 mm compensated in this file")
    assert (
        statement(0.16, False, unit) == f"{sizes} Kerf not compensated in this file: offset by 0.08 mm at the machine."
    )
