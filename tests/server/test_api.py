"""The server: what is acknowledged is stored, and two windows never overwrite each other."""

from importlib import import_module

import pytest
from leannotch_core.drawings.dxf import read_dxf
from leannotch_core.project.project import write_project
from leannotch_core.proof.sweep import prove
from pydantic import BaseModel
from workshop import notes
from workshop.demo import load_demo
from workshop.long_work import work
from workshop.models import Revision, Run, StoredProject
from workshop.revisions import create, current_id, document_of

from ..projects import part, project
from .calls import edit, edited, post

pytestmark = pytest.mark.django_db


def named(size):
    return {"do": "put name", "name": {"name": "tray_length", "size": {"text": size, "unit": "mm"}}}


def test_the_demo_is_loaded_once_and_a_second_start_keeps_the_makers_data(client, tray):
    answer = edit(client, "sorting-tray", tray.version, {"do": "rename project", "name": "My tray"})
    assert answer.status_code == 200
    assert load_demo() == []
    names = {"My tray", "Lens stand", "Quadrat frame", "Drip bracket", "Stake tags", "Display whelk"}
    drawn = {
        "Logger cover",
        "Felt pennant",
        "Gull",
        "Cross-staff",
        "Sorting tray of card",
        "Boot rack",
        "Tide staff",
        "Tide-gauge rest",
    }
    assert {p["name"] for p in client.get("/api/projects").json()} == names | drawn


def test_an_edit_is_stored_and_its_answer_shows_what_follows(client, tray):
    answer = edited(client, "sorting-tray", tray.version, named("250"))
    widths = {p["id"]: p["width"] for p in answer["parts"]}
    assert widths["floor"] == 250 and widths["lengthways"] == pytest.approx(250 - 2 * 3.07 - 0.3)
    assert answer["layout_out_of_date"] and answer["undo"] == "tray_length = 250"
    stored = document_of(current_id(StoredProject.objects.get(slug="sorting-tray")))
    assert stored.names[0].size.text == "250"


def test_undo_and_redo_walk_the_stored_revisions(client, tray):
    version = edit(client, "sorting-tray", tray.version, named("250")).json()["version"]
    version = edit(client, "sorting-tray", version, named("260")).json()["version"]
    sizes = []
    for way in ("undo", "undo", "redo"):
        answer = post(client, f"projects/sorting-tray/{way}", {"version": version}).json()
        version = answer["version"]
        sizes.append(answer["document"]["names"][0]["size"]["text"])
    assert sizes == ["250", "240", "250"] and answer["redo"] == "tray_length = 260"
    # A new edit starts a new branch; nothing of the old one is lost from the store.
    answer = edit(client, "sorting-tray", version, named("300")).json()
    assert answer["redo"] is None
    assert Revision.objects.filter(label="tray_length = 260").exists()
    nothing = create(project([]))
    assert (
        post(client, f"projects/{nothing.slug}/undo", {"version": 1}).json()["message"] == "There is nothing to undo."
    )


def test_the_second_window_gets_the_current_state_and_loses_nothing(client, tray):
    first = edit(client, "sorting-tray", tray.version, named("250"))
    second = edit(client, "sorting-tray", tray.version, named("111"))
    assert (first.status_code, second.status_code) == (200, 409)
    told = second.json()
    assert "changed in another window" in told["message"]
    assert told["current"]["document"]["names"][0]["size"]["text"] == "250"
    assert told["current"]["version"] == first.json()["version"]


@pytest.mark.parametrize(
    ("command", "says"),
    [
        (named("0"), "must be more than 0"),
        (named("nonsense"), "not known"),
        ({"do": "put part", "part": part("new", 10, 10, "no_such")}, "its stock “no_such” is not in the project"),
        ({"do": "remove stock", "id": "birch"}, "still use this stock"),
        ({"do": "remove part", "id": "gone"}, "not in the project any more"),
        ({"do": "explode"}, "“explode” is not known here"),
    ],
)
def test_a_bad_edit_is_refused_with_a_sentence_and_the_last_good_state_stays(client, tray, command, says):
    answer = edit(client, "sorting-tray", tray.version, command)
    assert answer.status_code == 422 and says in answer.json()["message"]
    assert StoredProject.objects.get(slug="sorting-tray").version == tray.version


def test_a_project_is_saved_to_a_file_and_opened_again(client, tray):
    data = client.get("/api/projects/sorting-tray/file").content
    opened = client.post("/api/projects/open", data, content_type="application/octet-stream")
    assert opened.status_code == 201 and opened.json()["slug"] == "sorting-tray-2"
    assert write_project(document_of(current_id(StoredProject.objects.get(slug="sorting-tray-2")))) == data
    for bad, says in ((b"hello", "is not a Lean Notch project"), (b"x" * 9_000_000, "at most 8 MB")):
        answer = client.post("/api/projects/open", bad, content_type="application/octet-stream")
        assert answer.status_code == 422 and says in answer.json()["message"]


def test_nesting_and_proof_run_as_tasks(client, tray):
    run = post(client, "projects/sorting-tray/nest", {"seconds": 1}).json()
    assert (run["state"], run["progress"]) == ("done", 1)
    assert StoredProject.objects.get(slug="sorting-tray").current.label == "Laid out"
    proof = post(client, "projects/sorting-tray/prove", {}).json()["proof"]
    assert [sheet["faults"] for sheet in proof["sheets"]] == [[], []]
    gaps = {round(gap, 3) for gap in proof["gaps"]}
    assert gaps == {0.1, 0.2}


def test_a_stopped_nesting_keeps_its_best_layout(client, tray):
    run = Run.objects.create(project=tray, kind="nest", seconds=60, version=tray.version, stop_asked=True)
    work.func(run.id)
    run.refresh_from_db()
    assert run.state == "stopped"
    assert len(document_of(current_id(StoredProject.objects.get(slug="sorting-tray"))).layout.placements) == 8


def test_a_file_is_handed_over_only_when_it_is_proved(client, tray):
    answer = client.get("/api/projects/sorting-tray/sheets/1.dxf")
    assert 'filename="sorting-tray-sheet-1-club-laser.dxf"' in answer["Content-Disposition"]
    assert len([p for p in prove(read_dxf(answer.content), 0.16).pieces if p.kind == "part"]) == 5
    placed = {**tray_placements(tray, "end_wall"), "x": 30.0, "y": 30.0}
    edit(client, "sorting-tray", tray_version(), {"do": "place parts", "placements": [placed]})
    refused = client.get("/api/projects/sorting-tray/sheets/1.svg")
    assert refused.status_code == 409 and "The proof of this file failed" in refused.json()["message"]
    assert client.get("/api/projects/sorting-tray/sheets/1.svg?accept_faults=true").status_code == 200
    assert client.get("/api/projects/sorting-tray/sheets/9.svg").status_code == 404


def tray_version():
    return StoredProject.objects.get(slug="sorting-tray").version


def tray_placements(tray, part_id):
    placements = document_of(current_id(StoredProject.objects.get(slug=tray.slug))).layout.placements
    return next(p for p in placements if p.part == part_id).model_dump()


def test_changes_asked_for_by_another_site_are_turned_away(client, tray):
    answer = client.post(
        "/api/projects", "{}", content_type="application/json", headers={"Sec-Fetch-Site": "cross-site"}
    )
    assert answer.status_code == 403
    assert client.get("/api/projects", headers={"Host": "evil.example"}).status_code == 400


def test_every_demo_project_is_sound(client, tray):
    for listed in client.get("/api/projects").json():
        shown = client.get(f"/api/projects/{listed['slug']}").json()
        assert shown["findings"] == [], listed["name"]
        proof = post(client, f"projects/{listed['slug']}/prove", {}).json()["proof"]
        assert all(sheet["faults"] == [] and all(c["good"] for c in sheet["checks"]) for sheet in proof["sheets"])
        assert proof["gaps"] == pytest.approx([row["gap"] for row in shown["ledger"]], abs=1e-3)


def test_one_fit_for_all_joints_and_settings_copied_to_others(client, tray):
    answer = edited(client, "sorting-tray", tray.version, {"do": "set fits", "fit": "press", "stock": "acrylic"})
    fits = {joint["id"]: joint["fit"] for joint in answer["document"]["joints"]}
    assert fits["lap_first"] == "press" and fits["walls_left"] is None
    joint = {**answer["document"]["joints"][0], "finger": {"text": "9", "unit": "mm"}, "proud": {"text": "0.5"}}
    version = edit(client, "sorting-tray", answer["version"], {"do": "put joint", "joint": joint}).json()["version"]
    answer = edited(client, "sorting-tray", version, {"do": "copy settings", "id": "walls_left"})
    fingers = [j for j in answer["document"]["joints"] if j["kind"] == "finger"]
    assert {(j["finger"]["text"], j["proud"]["text"]) for j in fingers} == {("9", "0.5")}
    assert len({(j["a"]["side"], j["b"]["part"], j["b"]["side"]) for j in fingers}) > 3


def test_how_a_large_assembly_goes_together_is_looked_at_after_the_answer(client, tray):
    short = part("long_wall", 230, 45, "birch", count=2)
    told = edit(client, "sorting-tray", tray.version, {"do": "put part", "part": short}).json()
    apart = [finding["text"] for finding in told["findings"] if "apart" in finding["text"]]
    assert apart
    tags = {"do": "put part", "part": part("tag", 20, 10, "birch", count=60)}
    told = edit(client, "sorting-tray", told["version"], tags).json()
    assert told["looking"] and not [f for f in told["findings"] if "apart" in f["text"]]
    later = client.get("/api/projects/sorting-tray/findings").json()
    assert later["version"] == told["version"]
    assert [finding["text"] for finding in later["findings"] if "apart" in finding["text"]] == apart


# Coupons and the stock library


def test_a_coupon_teaches_the_stock_and_other_projects_may_take_it_over(client, tray):
    stand = client.get("/api/projects/lens-stand").json()
    assert not [f for f in stand["findings"] if f["place"]["kind"] == "stock"]
    felt = [
        (0.0, "stiff"),
        (0.05, "firm"),
        (0.1, "firm"),
        (0.15, "firm"),
        (0.2, "holds until tapped"),
        (0.3, "falls apart"),
    ]
    command = {
        "do": "record coupon",
        "stock": "birch",
        "date": "2026-11-20",
        "kerf": {"how": "plug", "hole": "20.18", "plug": "19.82"},
        "felt": [{"clearance": clearance, "feel": feel} for clearance, feel in felt],
    }
    answer = edit(client, "sorting-tray", tray.version, command).json()
    birch = next(s for s in answer["document"]["stocks"] if s["id"] == "birch")
    # The comb was cut for a kerf of 0.16; at 0.18 its slots came out 0.02 wider than they are marked.
    assert answer["stocks"]["birch"]["kerf"] == pytest.approx(0.18)
    by_hand = {"press": 0.02, "glue": 0.12, "sliding": 0.22, "loose": 0.32}
    assert answer["stocks"]["birch"]["clearance"] == pytest.approx(by_hand)
    [known] = birch["on"]
    [history] = known["history"]
    assert (known["machine"], history["date"], history["kerf"]) == ("club_laser", "2026-11-20", pytest.approx(0.18))
    assert birch["kerf"]["width"]["text"] == "0.16" and not birch["history"]
    # The stand was drawn with the same birch: it says so, and can take the new values.
    stand = client.get("/api/projects/lens-stand").json()
    [news] = [f for f in stand["findings"] if f["place"]["kind"] == "stock"]
    assert "2026-11-20" in news["text"] and "0.18 mm" in news["text"]
    after = edit(client, "lens-stand", stand["version"], news["mends"][0]["command"]).json()
    assert not [f for f in after["findings"] if f["place"]["kind"] == "stock"]
    assert after["stocks"]["birch"]["kerf"] == pytest.approx(0.18)


def test_a_wider_slot_that_felt_tighter_is_refused(client, tray):
    felt = [{"clearance": 0.1, "feel": "falls apart"}, {"clearance": 0.2, "feel": "stiff"}]
    command = {"do": "record coupon", "stock": "birch", "date": "2026-11-20", "felt": felt}
    answer = edit(client, "sorting-tray", tray.version, command)
    assert answer.status_code == 422 and "cannot be tighter" in answer.json()["message"]


def test_a_comb_has_the_clearances_that_were_asked_for_and_is_laid_out(client, tray):
    birch = client.get("/api/library").json()[0]
    body = {"stock": birch, "kind": "fit comb", "low": 0, "high": 0.2, "step": 0.05}
    comb = post(client, "coupons", body).json()
    labels = [c["hole"]["text"] for c in comb["document"]["parts"][0]["cutouts"] if c["does"] == "score"]
    assert labels == [
        "0",
        "0.05",
        "0.1",
        "0.15",
        "0.2",
    ]
    assert len(comb["sheets"]) == 1 and comb["findings"] == []
    strip = post(client, "coupons", {"stock": birch, "kind": "kerf strip"}).json()
    assert (
        strip["document"]["hand_over"]["kerf"] == "at the machine"
        and len(strip["document"]["layout"]["placements"]) == 10
    )
    refused = post(client, "coupons", body | {"step": 0.001})
    assert refused.status_code == 422 and "at most 20 fit" in refused.json()["message"]


def below(kind):
    for one in kind.__subclasses__():
        yield one
        yield from below(one)


def test_no_two_schemas_share_a_name():
    """The schema of the calls knows them by their names alone."""
    import_module("leannotch.api")
    rooms = {}
    for model in below(BaseModel):
        if model.__module__.split(".")[0] in ("workshop", "handin", "bureau", "device", "drawn", "leannotch_core"):
            rooms.setdefault(model.__name__, set()).add(model.__module__)
    assert len(rooms) > 300 and [name for name, found in rooms.items() if len(found) > 1] == []


@pytest.mark.parametrize("what", ["with_mends", "assembly_findings", "with_faces", "prepared_sheet"])
def test_a_fault_of_ours_in_looking_locks_nobody_out(client, tray, monkeypatch, what):
    """The project is opened and changed all the same, and what could not be looked at is said."""

    def broken(*given):
        raise TypeError("Geometry array should be of object dtype")

    monkeypatch.setattr(notes, what, broken)
    shown = client.get("/api/projects/sorting-tray")
    assert shown.status_code == 200
    answer = edit(client, "sorting-tray", tray.version, {"do": "set fit", "fit": "press"})
    assert answer.status_code == 200
    found = [*answer.json()["findings"], *client.get("/api/projects/sorting-tray/findings").json()["findings"]]
    told = {finding["text"] for finding in found if finding["code"] == "not-looked-at"}
    assert told and all("could not be looked at, by a fault of ours; the log has" in text for text in told)
