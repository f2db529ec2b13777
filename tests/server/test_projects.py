"""The list of projects: one bad row takes nothing with it, and what is deleted is kept for thirty days."""

import json
from datetime import timedelta
from xml.etree import ElementTree

import pytest
from django.utils import timezone
from leannotch_core.project.project import write_project
from leannotch_core.starters.live import KINDS
from workshop import portraits
from workshop.deletion import take_away_what_is_over
from workshop.models import LibraryStock, Portrait, Revision, Run, StoredProject
from workshop.packed import pack
from workshop.revisions import create, document_of, known

from ..projects import demo, part, project, stock
from .calls import edit, post

pytestmark = pytest.mark.django_db


def listed(client):
    return {project["slug"]: project for project in client.get("/api/projects").json()}


def spoil(project, text):
    """What an older version of the application, or a failing disk, may have left."""
    Revision.objects.filter(id=project.current_id).update(difference=pack(text, project.current).difference)
    known.forget()


@pytest.mark.parametrize(
    "text", ["", "{", '{"version": 99}', '{"name": null}', '{"layout": {"margin": NaN}}', "[1e999]"]
)
def test_a_project_that_cannot_be_read_is_told_and_goes_back_to_its_last_state(client, tray, text):
    name = {"do": "rename project", "name": "Tray of the east bay"}
    edit(client, "sorting-tray", tray.version, name)
    tray.refresh_from_db()
    spoil(tray, text)
    shown = listed(client)
    assert len(shown) == 14 and [slug for slug, told in shown.items() if told["trouble"]] == ["sorting-tray"]
    told = shown["sorting-tray"]
    assert "cannot be opened as it is stored" in told["trouble"] and told["parts"] is None and told["readable"]
    for path in ("", "/dry-fit", "/plans/1", "/sheets/1.svg", "/file"):
        refused = client.get(f"/api/projects/sorting-tray{path}")
        assert refused.status_code == 422 and "cannot be opened" in refused.json()["message"]
    assert edit(client, "sorting-tray", tray.version, name).status_code == 422
    run = post(client, "projects/sorting-tray/prove", {}).json()
    assert run["state"] == "failed" and "cannot be opened" in run["message"]
    back = post(client, "projects/sorting-tray/recover", {})
    assert back.status_code == 200 and back.json()["document"]["name"] == "Sorting tray"
    assert not listed(client)["sorting-tray"]["trouble"]


#: A beginning that says 2^40 bytes follow, as RFC 8878 has it: magic number, a size of eight bytes, and the size.
CLAIMS = bytes.fromhex("28b52ffd e0 0000000000010000".replace(" ", ""))


@pytest.mark.parametrize("stored", [b"nothing", b"", CLAIMS])
def test_a_project_of_which_nothing_can_be_read_says_so(client, tray, stored):
    Revision.objects.filter(project=tray).update(difference=stored)
    known.forget()
    assert listed(client)["sorting-tray"]["readable"] is None
    refused = post(client, "projects/sorting-tray/recover", {})
    assert refused.status_code == 422 and refused.json()["message"] == "No state of “Sorting tray” can be read."


def test_a_bad_row_of_the_library_is_passed_over(client, tray):
    count = len(client.get("/api/library").json())
    LibraryStock.objects.create(name="spoiled", document='{"kerf": NaN}')
    assert len(client.get("/api/library").json()) == count
    assert post(client, "projects", {"name": "Another"}).status_code == 201


@pytest.mark.parametrize("number", ["1e999", "-1e999", "NaN", "1e300"])
def test_no_number_without_an_end_is_stored_whatever_way_it_comes(client, tray, number):
    document = json.loads(write_project(demo()))
    stock = {**document["stocks"][0], "history": [{"date": "2026-11-24", "kerf": "@"}]}
    laid = {"part": "floor", "outline": "", "width": "@", "height": 1}
    layout = {**document["layout"], "laid": [laid]}
    for path, body, what in (
        ("projects/open", {**document, "layout": layout}, "layout › laid › 0 › width"),
        ("projects/sorting-tray/edit", {"do": "set layout", "layout": layout}, "layout › laid › 0 › width"),
        ("projects/sorting-tray/edit", {"do": "put stock", "stock": stock}, "history › 0 › kerf"),
        ("library", stock, "history › 0 › kerf"),
        ("coupons", {"stock": stock}, "history › 0 › kerf"),
    ):
        sent = {"version": tray.version, "command": body} if path.endswith("edit") else body
        data = json.dumps(sent).replace('"@"', number)
        refused = client.post(f"/api/{path}", data, content_type="application/json")
        assert refused.status_code == 422, (path, refused.content)
        message = refused.json()["message"]
        assert what in message and ("no finite number" in message or "1e+300" in message), message
    assert len(listed(client)) == 14 and {told["trouble"] for told in listed(client).values()} == {""}


def test_the_twenty_first_starter_is_refused_with_its_number_and_the_list_stays(client):
    slug = create(project([])).slug
    for number in range(1, 22):
        bracket = {"id": f"bracket_{number}", "kind": "bracket", "stock": "ply", "second_stock": "ply"}
        answer = edit(client, slug, number, {"do": "put starter", "starter": bracket})
        assert answer.status_code == (200 if number < 21 else 422)
    assert "starters come to 21, at most 20 are taken" in answer.json()["message"]
    again = client.get(f"/api/projects/{slug}").json()
    assert again["version"] == 21 and len(again["document"]["starters"]) == 20
    assert listed(client)[slug]["trouble"] == ""


@pytest.mark.parametrize(("size", "says"), [("kerf", "“kerf”, which is not known"), ("1/0", "divi")])
def test_a_sheet_of_a_size_that_means_nothing_is_said_and_no_fault(client, tray, size, says):
    laid = json.loads(client.get("/api/projects/sorting-tray/file").content)
    laid["stocks"][0]["sheets"] = [{"width": size, "height": "400"}]
    told = client.post("/api/projects/open", json.dumps(laid), content_type="application/octet-stream").json()
    assert [says in f["text"] for f in told["findings"] if f["place"]["field"] == "sheet width"] == [True]
    for path in ("plans/1", "sheets/1.svg", "sheets/1.dxf"):
        answer = client.get(f"/api/projects/{told['slug']}/{path}")
        assert answer.status_code == 422 and answer.json()["message"], answer.content
    run = post(client, f"projects/{told['slug']}/nest", {"seconds": 1}).json()
    assert run["state"] == "failed" and says in run["message"]


def test_a_control_character_in_a_name_is_in_no_file(client):
    made = post(client, "projects", {"name": "Kit\x00\x1b of the bay"}).json()
    command = {"do": "put part", "part": part("plate", 40, 30, "birch") | {"name": "Pl\x01ate\ufffe"}}
    stocks = {"do": "put stock", "stock": stock("birch").model_dump(mode="json")}
    version = edit(client, made["slug"], made["version"], stocks).json()["version"]
    edit(client, made["slug"], version, command)
    post(client, f"projects/{made['slug']}/nest", {"seconds": 1})
    file = client.get(f"/api/projects/{made['slug']}/sheets/1.svg")
    ElementTree.fromstring(file.content)
    assert made["document"]["name"] == "Kit of the bay" and file.status_code == 200


# Deletion


def test_what_is_deleted_is_had_back_as_it_was(client, tray):
    before = client.get("/api/projects/sorting-tray").json()
    assert client.delete("/api/projects/sorting-tray").status_code == 204
    assert "sorting-tray" not in listed(client)
    for path in ("", "/file", "/plans/1"):
        assert client.get(f"/api/projects/sorting-tray{path}").status_code == 404
    assert edit(client, "sorting-tray", before["version"], {"do": "set unit", "unit": "in"}).status_code == 404
    [kept] = client.get("/api/deleted").json()
    assert kept["name"] == "Sorting tray" and kept["until"][:10] > str(timezone.now() + timedelta(days=29))[:10]
    # Another of the same name takes nothing of it.
    assert post(client, "projects", {"name": "Sorting tray"}).json()["slug"] == "sorting-tray-2"
    assert post(client, "deleted/sorting-tray/restore", {}).status_code == 204
    assert client.get("/api/projects/sorting-tray").json() == before and client.get("/api/deleted").json() == []
    assert post(client, "deleted/sorting-tray/restore", {}).status_code == 404


def test_after_thirty_days_it_goes_with_all_its_rows_and_nothing_else(client, tray):
    version = tray.version
    for length in range(201, 230):
        version = edit(client, "sorting-tray", version, {"do": "put name", "name": named(length)}).json()["version"]
    post(client, "projects/sorting-tray/fit", {})
    for slug in ("sorting-tray", "lens-stand"):
        client.delete(f"/api/projects/{slug}")
    StoredProject.objects.filter(slug="sorting-tray").update(deleted=timezone.now() - timedelta(days=30, minutes=1))
    assert [kept["slug"] for kept in client.get("/api/deleted").json()] == ["lens-stand"]
    assert post(client, "deleted/sorting-tray/restore", {}).status_code == 404
    assert take_away_what_is_over() == 1
    assert not Revision.objects.filter(project_id=tray.id) and not Run.objects.filter(project_id=tray.id)
    assert StoredProject.objects.count() == 13 and StoredProject.objects.filter(slug="lens-stand").exists()


def named(length):
    return {"name": "tray_length", "size": {"text": str(length)}}


def test_a_project_is_listed_with_what_it_is_of_and_how_far_it_has_come(client, tray):
    create(project([]), slug="bare")
    create(project([part("a", 40, 30)]), slug="drawn")
    shown = listed(client)
    assert (shown["bare"]["stands"], shown["drawn"]["stands"], shown["sorting-tray"]["stands"]) == (
        "empty",
        "drawn",
        "laid out",
    )
    assert {slug for slug, told in shown.items() if not told["demo"]} == {"bare", "drawn"}
    assert shown["sorting-tray"]["sheets"] == 2 and shown["drawn"]["stocks"] == ["Test ply"]
    laid = document_of(tray.current_id)
    cut = [one.model_copy(update={"cut": True}) for one in laid.layout.placements]
    create(laid.model_copy(update={"layout": laid.layout.model_copy(update={"placements": cut})}), slug="all-cut")
    assert listed(client)["all-cut"]["stands"] == "cut"
    create(laid.model_copy(update={"layout": laid.layout.model_copy(update={"placements": cut[:-2]})}), slug="some-cut")
    assert [listed(client)["some-cut"][told] for told in ("stands", "missing")] == ["laid out", 2]


def test_a_portrait_is_drawn_once_for_each_state_and_kept(client, tray, monkeypatch):
    def asked(of):
        return client.get(f"/api/projects/sorting-tray/portrait?of={of}")

    state = listed(client)["sorting-tray"]["state"]
    first = asked(state)
    root = ElementTree.fromstring(first.content)
    assert first["Content-Type"] == "image/svg+xml" and root.get("viewBox") and len(root) > 30
    assert "immutable" in first["Cache-Control"] and asked(state + 1)["Cache-Control"] == "no-store"
    drawn = []
    monkeypatch.setattr(portraits, "portrait", lambda *_: drawn.append(1) or "<svg/>")
    assert asked(state).content == first.content and drawn == []
    edit(
        client,
        "sorting-tray",
        tray.version,
        {"do": "put name", "name": {"name": "tray_length", "size": {"text": "400"}}},
    )
    state = listed(client)["sorting-tray"]["state"]
    assert asked(state).content == b"<svg/>" and asked(state).content == b"<svg/>" and drawn == [1]
    # What was drawn in another manner is drawn anew.
    monkeypatch.setattr(portraits, "MANNER", portraits.MANNER + 1)
    assert asked(state).content == b"<svg/>" and drawn == [1, 1] and Portrait.objects.count() == 1


def test_a_page_to_look_at_is_shown_in_a_frame_of_ours_that_may_do_nothing_or_saved(client, tray):
    shown = client.get("/api/projects/sorting-tray/page")
    policy = shown["Content-Security-Policy"]
    assert policy.startswith("sandbox allow-scripts") and "allow-same-origin" not in policy
    assert "default-src 'none'" in policy and "frame-ancestors 'self'" in policy
    assert shown["X-Frame-Options"] == "SAMEORIGIN" and shown["Content-Type"].startswith("text/html")
    saved = client.get("/api/projects/sorting-tray/page?save=true")
    assert saved["Content-Disposition"] == 'attachment; filename="sorting-tray.html"'
    assert saved.content == shown.content and "frame-ancestors 'none'" in saved["Content-Security-Policy"]
    assert client.get("/api/projects/nothing/page").status_code == 404


def test_what_cannot_be_read_or_is_not_there_has_no_portrait(client, tray):
    spoil(tray, "{")
    assert client.get("/api/projects/sorting-tray/portrait?of=1").status_code == 404
    assert client.get("/api/projects/none/portrait?of=1").status_code == 404
    assert client.get("/api/starters/none/portrait").status_code == 404


@pytest.mark.parametrize("key", KINDS)
def test_every_starter_has_its_portrait(client, key):
    drawn = ElementTree.fromstring(client.get(f"/api/starters/{key}/portrait").content)
    assert len(drawn) > 5
