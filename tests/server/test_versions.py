"""Versions, variants, duplicates, pictures laid under a drawing, and what is looked at while drawing."""

import io

import pytest
from PIL import Image
from workshop import revisions, variants
from workshop.demo import load_demo
from workshop.revisions import known

from .calls import edit as edit_at
from .calls import post, shown, watched

PLY = "sorting-tray"


def get(client, path):
    return client.get(f"/api/{path}").json()


def edit(client, slug, command):
    return edit_at(client, slug, shown(client, slug)["version"], command)


def names(told):
    return [(one["where"], one["before"], one["after"]) for one in told["differences"]]


def test_a_version_is_kept_compared_and_gone_back_to_with_nothing_lost(client, tray):
    kept = post(client, f"projects/{PLY}/versions", {"name": "five millimetre card"})
    assert kept.status_code == 201 and kept.json()["count"] == 5 and kept.json()["parts"][0]["path"]
    version = kept.json()["id"]
    cut = {"do": "begin cut-out", "part": "floor", "id": "hole", "kind": "round"}
    assert edit(client, PLY, cut).status_code == 200
    assert edit(client, PLY, {"do": "put name", "name": {"name": "tray_length", "size": "260"}}).status_code == 200
    told = get(client, f"projects/{PLY}/compared?before={version}")
    assert ("tray_length", "240 mm", "260 mm") in names(told) and ("Floor, round hole 1", "", "new") in names(told)
    floor = next(part for part in told["parts"] if part["id"] == "floor")
    assert floor["box"]["right"] == 260 and floor["before"] != floor["after"]
    now = get(client, f"projects/{PLY}")
    back = post(client, f"projects/{PLY}/versions/{version}/back", {"version": now["version"]}).json()
    assert (
        back["document"]["names"][0]["size"]["text"] == "240"
        and back["undo"] == "Back to the version five millimetre card"
    )
    assert get(client, f"projects/{PLY}/compared?before={version}")["differences"] == []
    undone = post(client, f"projects/{PLY}/undo", {"version": back["version"]}).json()
    assert undone["document"]["names"][0]["size"]["text"] == "260"
    assert client.delete(f"/api/projects/{PLY}/versions/{version}").status_code == 204
    assert version not in [one["id"] for one in get(client, f"projects/{PLY}/versions")]


def test_what_is_sunk_is_drawn_and_a_pocket_that_moved_is_seen(client, tray):
    begun = {"do": "begin cut-out", "part": "floor", "id": "well", "kind": "round"}
    assert edit(client, PLY, begun).status_code == 200
    floor = shown(client, PLY)["document"]["parts"][0]
    [well] = [cut for cut in floor["cutouts"] if cut["id"] == "well"]
    sunk = floor | {"cutouts": [well | {"does": "pocket", "depth": {"text": "1"}}]}
    assert edit(client, PLY, {"do": "put part", "part": sunk}).status_code == 200
    version = post(client, f"projects/{PLY}/versions", {"name": "with a well"}).json()
    assert version["parts"][0]["pockets"] and not version["parts"][1]["pockets"]
    moved = floor | {"cutouts": [sunk["cutouts"][0] | {"x": {"text": "30"}}]}
    assert edit(client, PLY, {"do": "put part", "part": moved}).status_code == 200
    [seen] = get(client, f"projects/{PLY}/compared?before={version['id']}")["parts"]
    assert seen["id"] == "floor" and seen["before"] != seen["after"]


def test_a_variant_follows_its_design_and_keeps_its_own_stock_sizes_layout_and_files(client, tray):
    variant = post(client, f"projects/{PLY}/variants", {"name": "Tray of card"}).json()
    slug = variant["slug"]
    assert (variant["variant_of"], variant["design"]) == (PLY, "Sorting tray")
    birch = next(stock for stock in variant["document"]["stocks"] if stock["id"] == "birch")
    card = birch | {"name": "Card 5 mm", "readings": ["5.1"], "nominal": "5"}
    assert edit(client, slug, {"do": "put stock", "stock": card}).status_code == 200
    assert edit(client, slug, {"do": "put name", "name": {"name": "tray_width", "size": "150"}}).status_code == 200
    floor = variant["document"]["parts"][0]
    refused = edit(client, slug, {"do": "put part", "part": floor | {"name": "Bottom"}})
    assert (
        refused.status_code == 422
        and "variant of Sorting tray and follows its design: change the parts there" in refused.json()["message"]
    )
    # A change of the design reaches it, and what is its own stays.
    assert edit(client, PLY, {"do": "put part", "part": floor | {"name": "Bottom"}}).status_code == 200
    assert edit(client, PLY, {"do": "put name", "name": {"name": "tray_length", "size": "300"}}).status_code == 200
    now = get(client, f"projects/{slug}")
    assert now["document"]["parts"][0]["name"] == "Bottom" and now["stocks"]["birch"]["thickness"] == 5.1
    sizes = {name["name"]: name["size"]["text"] for name in now["document"]["names"]}
    assert (sizes["tray_length"], sizes["tray_width"]) == ("300", "150")
    rows = get(client, f"projects/{slug}/variants")
    design, row = rows[0], rows[-1]
    assert (design["name"], design["design"], row["name"], row["design"]) == (
        "Sorting tray",
        True,
        "Tray of card",
        False,
    )
    assert row["own"] == ["Card 5 mm", "tray_width"] and row["thickness"].startswith("5.10")
    assert design["sheets"] == 2 and design["seconds"] > 0 and row["cut_length"] != design["cut_length"]
    # Undone there, it still follows the design.
    undone = post(client, f"projects/{slug}/undo", {"version": now["version"]})
    assert undone.status_code == 200
    assert get(client, f"projects/{slug}")["document"]["parts"][0]["name"] == "Bottom"
    again = post(client, f"projects/{slug}/variants", {"name": "One more"})
    assert again.status_code == 422 and "is a variant itself" in again.json()["message"]


def test_a_project_is_duplicated_and_the_copy_is_its_own(client, tray):
    copy = post(client, f"projects/{PLY}/duplicate", {}).json()
    assert copy["document"]["name"] == "Sorting tray copy" and copy["slug"] != PLY
    assert copy["document"]["parts"] == get(client, f"projects/{PLY}")["document"]["parts"]
    assert edit(client, copy["slug"], {"do": "remove part", "id": "floor"}).status_code == 200
    assert len(get(client, f"projects/{PLY}")["document"]["parts"]) == 5


def test_a_picture_is_kept_by_its_hash_and_what_is_none_is_refused(client, db):
    data = io.BytesIO()
    Image.new("RGB", (60, 40), "white").save(data, "PNG")
    kept = client.post("/api/pictures", data.getvalue(), content_type="image/png")
    assert kept.status_code == 201 and (kept.json()["width"], kept.json()["height"]) == (60, 40)
    again = client.post("/api/pictures", data.getvalue(), content_type="image/png").json()
    assert again["key"] == kept.json()["key"]
    shown = client.get(f"/api/pictures/{again['key']}.jpg")
    assert shown["Content-Type"] == "image/jpeg" and Image.open(io.BytesIO(shown.content)).size == (60, 40)
    refused = client.post("/api/pictures", b"<svg/>", content_type="image/svg+xml")
    assert refused.status_code == 422 and "no PNG or JPEG" in refused.json()["message"]
    assert client.get("/api/pictures/0123.jpg").status_code == 404


def test_corners_strokes_names_and_standard_things_are_told_while_drawing(client, tray):
    corners = get(client, f"projects/{PLY}/parts/floor/corners")
    assert sorted((c["x"], c["y"]) for c in corners) == [(0, 0), (0, 180), (240, 0), (240, 180)]
    assert {c["before"]["side"] for c in corners} == {"left", "bottom", "right", "top"}
    square = [{"x": x, "y": y} for x, y in ((0, 0), (20, 0), (40, 0), (40, 20), (40, 40), (20, 40), (0, 40), (0, 20))]
    stroke = post(client, "stroke", {"stroke": square, "smoothing": 0.5}).json()
    assert 4 <= stroke["points"] <= 12 and stroke["path"].startswith("M") and stroke["arcs"] >= 4
    short = post(client, "stroke", {"stroke": square[:1] * 2, "smoothing": 0.5})
    assert short.status_code == 422 and "too short" in short.json()["message"]
    uses = get(client, f"projects/{PLY}/names")["uses"]
    assert "Floor width" in uses["tray_length"]
    assert {"name", "group", "source", "says"} == set(get(client, "standards")[0])


@pytest.mark.django_db(transaction=True)
def test_steps_are_worked_out_before_the_database_is_held(client, monkeypatch):
    load_demo()
    known.forget()
    slow = [(revisions, name) for name in ("evaluate", "apply", "pack", "read_project")] + [(variants, "following")]
    held = watched(monkeypatch, slow)
    tray = client.get("/api/projects/sorting-tray").json()
    cut = post(client, "projects/sorting-tray/sheets/1/cut", {"version": tray["version"]}).json()
    known.forget()
    back = post(client, "projects/sorting-tray/undo", {"version": cut["version"]}).json()
    known.forget()
    again = post(client, "projects/sorting-tray/redo", {"version": back["version"]})
    assert again.status_code == 200
    # The variant of card follows all of that when it is looked at.
    known.forget()
    assert client.get("/api/projects/sorting-tray-of-card").status_code == 200
    assert {name for name, _ in held} == {name for _, name in slow}
    assert not any(atomic for _, atomic in held), held
