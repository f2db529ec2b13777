"""Starters, outlines from files and the dry fit, as the browser asks for them."""

import json

import numpy as np
import pytest
import trimesh
from leannotch_core.facts.profiles.shipped import shipped
from workshop.long_work import work
from workshop.models import Run, StoredProject
from workshop.revisions import create, current_id, document_of

from ..projects import finger, part, project, stock, tab
from ..shipped import projects
from .calls import edit, edited, post, shown

pytestmark = pytest.mark.django_db

SVG = '<svg xmlns="http://www.w3.org/2000/svg" width="90mm" height="60mm" viewBox="0 0 90 60">{}</svg>'
WING = SVG.format('<path d="M0 60 A45 45 0 0 1 90 60 Z"/>').encode()


def starter(kind="tray", **sizes):
    typed = {name: {"text": text, "unit": "mm"} for name, text in sizes.items()}
    return {"id": f"{kind}_1", "kind": kind, "stock": "ply", "second_stock": "ply", "sizes": typed, "choices": {}}


def preview(client, wanted, **more):
    stocks = [stock().model_dump(mode="json")]
    return post(client, "starters/preview", {"starter": wanted, "stocks": stocks, "names": [], **more})


@pytest.fixture
def empty():
    return create(project([]))


def put(client, slug, version, wanted):
    return edit(client, slug, version, putting(wanted))


def putting(wanted):
    return {"do": "put starter", "starter": wanted}


# Before a starter is made, and after


def test_what_a_starter_would_need_is_what_it_then_takes(client, empty):
    for kind in (known["key"] for known in client.get("/api/starters").json()):
        told = preview(client, starter(kind)).json()
        made = edited(client, empty.slug, StoredProject.objects.get(id=empty.id).version, putting(starter(kind)))
        counts = {part["id"]: part["count"] for part in made["document"]["parts"]}
        assert told["parts"] == sum(counts.values()) and told["joints"] == len(made["document"]["joints"])
        assert told["area"] == pytest.approx(sum(p["area"] * counts[p["id"]] for p in made["parts"]))
        edit(client, empty.slug, made["version"], {"do": "remove starter", "id": f"{kind}_1"})


def test_a_starter_may_use_the_sizes_that_a_project_has_named(client):
    names = [{"name": "shelf", "size": {"text": "310", "unit": "mm"}}]
    told = preview(client, starter(length="shelf - 10"), names=names).json()
    assert told["fit"]["overall"][0]["length"] == pytest.approx(300)
    refused = preview(client, starter(length="shelf - 10"))
    assert refused.status_code == 422 and "shelf" in refused.json()["message"]


def test_numbers_that_make_nothing_are_refused_and_leave_the_project_as_it_was(client, empty):
    refused = put(client, empty.slug, 1, starter(columns="200, rest, 90"))
    assert refused.status_code == 422 and "for the rest; make the tray larger" in refused.json()["message"]
    assert document_of(current_id(StoredProject.objects.get(id=empty.id))).parts == []


def test_changing_and_letting_go_are_undone_like_any_edit(client, empty):
    version = put(client, empty.slug, 1, starter()).json()["version"]
    wider = put(client, empty.slug, version, starter(columns="4")).json()
    assert wider["undo"] == "Tray with compartments changed"
    free = edited(client, empty.slug, wider["version"], {"do": "let go", "id": "tray_1"})
    assert not any(part["starter"] for part in free["document"]["parts"])
    back = post(client, f"projects/{empty.slug}/undo", {"version": free["version"]}).json()
    assert {part["starter"] for part in shown(client, empty.slug)["document"]["parts"]} == {"tray_1"}
    again = post(client, f"projects/{empty.slug}/undo", {"version": back["version"]}).json()
    assert again["document"]["starters"][0]["sizes"] == {}


def test_a_change_from_a_second_window_loses_neither(client, empty):
    version = put(client, empty.slug, 1, starter()).json()["version"]
    first, second = (put(client, empty.slug, version, starter(columns=columns)) for columns in ("2", "5"))
    assert (first.status_code, second.status_code) == (200, 409)
    assert second.json()["current"]["document"]["starters"][0]["sizes"]["columns"]["text"] == "2"


def test_sizes_in_space_say_which_number_they_are_and_are_typed_there(client):
    told = preview(client, starter(columns="60, rest", rows="1")).json()["fit"]
    driven = {(s["driven"]["number"], s["driven"]["index"]): s["length"] for s in told["inner"] if s["driven"]}
    # By hand: 240 less two walls and one divider of 3.07, and the 60 that are given.
    wanted = {("columns", 0): 60, ("columns", 1): 240 - 3 * 3.07 - 60, ("rows", 0): 160 - 6.14}
    assert driven == pytest.approx(wanted)
    assert [span["driven"]["number"] for span in told["overall"]] == ["length", "width", "height"]
    typed = {"starter": starter(columns="60, rest", rows="1"), "number": "columns", "index": 1}
    answer = post(client, "starters/typed", typed | {"size": {"text": "4", "unit": "in"}}).json()
    assert answer["sizes"]["columns"]["text"] == "60, 101.6 mm"
    given = preview(client, answer).json()
    assert given["fit"]["overall"][0]["driven"] is None and "follows from them" in given["facts"]["notes"][0]
    for wrong in (
        {"number": "columns", "index": 7},
        {"number": "height", "index": 0},
        {"number": "depth", "index": None},
    ):
        assert post(client, "starters/typed", typed | wrong | {"size": {"text": "4"}}).status_code == 422


def test_a_starter_that_a_file_brought_broken_is_told_and_its_parts_are_still_shown(client, empty):
    document = edited(client, empty.slug, 1, putting(starter()))["document"]
    document["starters"][0]["sizes"]["columns"] = {"text": "999", "unit": "mm"}
    document["parts"] = [part for part in document["parts"] if part["id"] != "tray_1_left"]
    document["joints"] = [j for j in document["joints"] if "tray_1_left" not in (j["a"]["part"], j["b"]["part"])]
    opened = client.post("/api/projects/open", json.dumps(document), content_type="application/octet-stream").json()
    assert "from 1 to 12 compartments" in opened["starters"]["tray_1"]["notes"][0]
    fit = client.get(f"/api/projects/{opened['slug']}/dry-fit")
    assert fit.status_code == 200
    assert {span["driven"]["number"] for span in fit.json()["inner"] if span["driven"]} == {"rows"}


# Outlines


def test_an_outline_is_read_brought_and_undone(client):
    plate = create(project([part("plate", 40, 30)]))
    read = client.post("/api/outlines", WING, content_type="application/octet-stream").json()
    assert (read["outline"]["width"]["text"], read["outline"]["height"]["text"]) == ("90", "45")
    command = {"do": "bring outline", "id": "plate", "outline": read["outline"]}
    drawn = edited(client, plate.slug, 1, command)
    # By hand: half a circle of 45.
    assert drawn["parts"][0]["area"] == pytest.approx(np.pi * 45**2 / 2, abs=1e-3)
    assert drawn["undo"] == "Plate drawn from a file"
    back = post(client, f"projects/{plate.slug}/undo", {"version": drawn["version"]}).json()
    assert back["parts"]["changed"][0]["area"] == 1200


@pytest.mark.parametrize(
    ("data", "status", "says"),
    [
        (b"", 422, "cannot be read"),
        (b"<html><body>no drawing</body></html>", 422, "not an SVG drawing"),
        (b'<!DOCTYPE s [<!ENTITY a "&b;"><!ENTITY b "&a;&a;">]>' + WING, 422, "names itself"),
        (
            b'<!DOCTYPE s [<!ENTITY x SYSTEM "file:///etc/passwd">]><svg xmlns="http://www.w3.org/2000/svg">&x;</svg>',
            422,
            "not safe",
        ),
        (SVG.format("<path d='" + "M0 0L9 9" * 5000 + "'/>").encode(), 422, "at most 4000"),
        (b" " * 11_000_000, 413, "too large"),
    ],
)
def test_a_file_that_gives_no_outline_is_answered_with_a_sentence(client, data, status, says):
    answer = client.post("/api/outlines", data, content_type="application/octet-stream")
    assert answer.status_code == status and says in answer.json()["message"]


# The dry fit


def placed(fit):
    """The solids of a dry fit as trimesh sees them, in space."""
    meshes = {
        mesh["part"]: trimesh.Trimesh(
            np.reshape(mesh["corners"], (-1, 3)), np.reshape(mesh["triangles"], (-1, 3)), process=False
        )
        for mesh in fit["meshes"]
    }
    found = []
    for copy in fit["copies"]:
        body = meshes[copy["part"]].copy()
        body.apply_transform(np.vstack([np.reshape(copy["matrix"], (3, 4)), [0, 0, 0, 1]]))
        found.append(body)
    return found


def test_what_the_browser_draws_are_closed_solids_of_true_size_moved_without_being_bent(client, tray):
    for listed in client.get("/api/projects").json():
        shown = client.get(f"/api/projects/{listed['slug']}").json()
        fit = client.get(f"/api/projects/{listed['slug']}/dry-fit").json()
        parts = {part["id"]: part for part in shown["parts"]}
        for copy, body in zip(fit["copies"], placed(fit), strict=True):
            turn = np.reshape(copy["matrix"], (3, 4))[:, :3]
            assert np.allclose(turn @ turn.T, np.eye(3), atol=1e-5) and np.linalg.det(turn) > 0
            wanted = parts[copy["part"]]
            assert body.is_watertight
            if not wanted["pockets"]:
                # In a bend the middle of the sheet is longer than its neutral line.
                near = 2e-2 if wanted["bends"] else 2e-3
                assert body.volume == pytest.approx(wanted["area"] * wanted["thickness"], rel=near)
        overall = sorted(span["length"] for span in fit["overall"])
        main = trimesh.util.concatenate([b for b, c in zip(placed(fit), fit["copies"], strict=True) if c["group"] == 0])
        assert overall == pytest.approx(sorted(main.extents), abs=0.06)
        assert main.bounds[0][2] == pytest.approx(0, abs=1e-3)


def test_a_dry_fit_runs_as_a_task_and_tells_clash_place_and_order(client):
    parts = [part("base", 100, 100), part("fin", 40, 60), part("bar", 40, 80), part("spare", 20, 20)]
    joints = [
        tab("fin", "left", "base", 20, 50, id="fin", width="10", line={"turn": "0"}),
        tab("bar", "left", "base", 50, 10, id="bar", width="10", tabs=1, line={"turn": "90"}),
    ]
    slug = create(project(parts, joints)).slug
    run = post(client, f"projects/{slug}/fit", {}).json()
    assert (run["state"], run["progress"]) == ("done", 1)
    [clash] = run["fit"]["clashes"]
    assert {clash["a"]["part"], clash["b"]["part"]} == {"fin", "bar"} and not clash["promised"]
    fit = client.get(f"/api/projects/{slug}/dry-fit").json()
    bodies = dict(zip((c["part"] for c in fit["copies"]), placed(fit), strict=True))
    # Its middle lies in both of them, which stand square in space.
    for name in ("fin", "bar"):
        low, high = bodies[name].bounds
        assert (low < clash["middle"]).all() and (clash["middle"] < high).all()
    assert [copy["part"] for copy in run["fit"]["loose"]] == ["spare"]


def test_an_assembly_sheet_is_of_what_was_checked_and_of_nothing_that_was_changed_since(client, tray):
    run = post(client, "projects/sorting-tray/fit", {}).json()
    assert run["fit"]["steps"][0]["text"].endswith("onto Floor, from above")
    sheet = client.get(f"/api/runs/{run['id']}/assembly-sheet")
    assert sheet.content.startswith(b"%PDF") and "sorting-tray-assembly.pdf" in sheet["Content-Disposition"]
    edited(client, "sorting-tray", tray.version, {"do": "rename project", "name": "Other"})
    refused = client.get(f"/api/runs/{run['id']}/assembly-sheet")
    assert refused.status_code == 422 and "check the fit again" in refused.json()["message"]
    nested = Run.objects.create(project=tray, kind="nest", seconds=0, version=tray.version)
    assert client.get(f"/api/runs/{nested.id}/assembly-sheet").status_code == 404


def test_a_check_that_was_stopped_says_so_and_keeps_what_it_found(client, tray):
    run = Run.objects.create(project=tray, kind="fit", seconds=0, version=tray.version, stop_asked=True)
    work.func(run.id)
    shown = client.get(f"/api/runs/{run.id}").json()
    assert shown["state"] == "stopped" and shown["fit"]["steps"] == []


def test_a_roof_too_wide_is_a_warning_with_its_mend_in_the_answer_to_the_edit(client):
    """Common practice, no source: two 128 mm walls under a 140 mm roof leave 6 mm on each side."""
    parts = [part("floor", 128, 90), part("wall", 90, 50, count=2), part("roof", 128, 90)]
    joints = [
        finger("wall", edge, plate, side, id=f"{plate}_{side}")
        for plate, edge in (("floor", "bottom"), ("roof", "top"))
        for side in ("left", "right")
    ]
    slug = create(project(parts, joints)).slug
    assert client.get(f"/api/projects/{slug}").json()["findings"] == []
    wide = part("roof", 140, 90)
    [finding] = edit(client, slug, 1, {"do": "put part", "part": wide}).json()["findings"]
    assert "Roof is 140 mm wide, and Wall stands where 128 mm would meet it" in finding["text"]
    assert "12 mm apart" in finding["text"]
    [mend] = finding["mends"]
    assert mend["command"] == {"do": "set value", "path": ["parts", "roof", "shape", "width"], "value": "128"}


def test_a_starter_whose_cutter_is_gone_is_told_and_its_project_opens(client, db):
    """What a starter cannot be made of is said beside it, whatever it is that is missing."""
    router = shipped()["router"]
    document = projects()["starter_tray"].model_copy(update={"machines": [router], "machine": router.id})
    routing = document.preparation.routing.model_copy(update={"cutter": "gone"})
    preparation = document.preparation.model_copy(update={"routing": routing})
    slug = create(document.model_copy(update={"preparation": preparation})).slug
    shown = client.get(f"/api/projects/{slug}")
    assert shown.status_code == 200
    [facts] = shown.json()["starters"].values()
    assert any("The cutter “gone” is not in the rack any more" in note for note in facts["notes"])
