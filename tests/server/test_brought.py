"""Drawings that others made, through the API: kept as they were, looked at by choices, and taken as one edit."""

import random
from datetime import timedelta

import pytest
from django.utils import timezone
from leannotch_core.drawings.bounds import Bounds
from leannotch_core.drawings.sent import joined_apart
from workshop.brought import kept
from workshop.brought.kept import _known
from workshop.deletion import take_away_what_is_over
from workshop.models import BroughtFile
from workshop.revisions import create

from ..projects import ROOT, part, project
from .calls import merged, post, shown

LABELS = (ROOT / "demo" / "brought" / "specimen_labels.svg").read_bytes()


@pytest.fixture
def empty(db):
    _known.forget()
    return create(project([part("one", 40, 30)]))


def bring(client, slug, data=LABELS, name="specimen_labels.svg"):
    path = f"/api/projects/{slug}/brought?name={name}"
    return client.post(path, data, content_type="application/octet-stream")


def test_a_drawing_is_kept_looked_at_and_taken_in_one_step_of_undo(client, empty):
    brought = bring(client, empty.slug).json()
    assert [file["name"] for file in client.get(f"/api/projects/{empty.slug}/brought").json()] == [
        "specimen_labels.svg"
    ]
    assert b"".join(client.get(f"/api/brought/{brought['id']}/file")) == LABELS
    as_read = post(client, f"brought/{brought['id']}/look", {}).json()
    assert (as_read["unit"], as_read["unit_stated"], as_read["mend"]["open"]) == ("px", False, 2)
    # 0.25 px of 26.458 mm to the hundred.
    (open_lines,) = (told for told in as_read["told"] if told["code"] == "open")
    assert "the narrowest gap is 0.07 mm" in open_lines["says"] and len(open_lines["places"]) == 4
    choices = {"unit": "mm", "join": 0.3}
    mended = post(client, f"brought/{brought['id']}/look", choices).json()
    assert [(p["count"], round(p["width"], 3)) for p in mended["parts"]] == [(6, 70), (1, 150), (2, 40)]
    assert [(row["key"], row["purpose"]) for row in mended["rows"]] == [("outlines", "cut"), ("score", "score")]
    before = shown(client, empty.slug)
    assert len(before["document"]["parts"]) == 1
    body = {"version": 1, "choices": choices, "parts": [0, 2], "stock": before["document"]["stocks"][0]["id"]}
    taken = merged(before, post(client, f"brought/{brought['id']}/take", body).json())
    assert taken == shown(client, empty.slug)
    assert [(p["name"], p["count"]) for p in taken["document"]["parts"][1:]] == [("Part 1", 6), ("Part 3", 2)]
    assert taken["undo"] == "2 parts brought from specimen_labels.svg"
    post(client, f"projects/{empty.slug}/undo", {"version": 2})
    assert shown(client, empty.slug)["document"]["parts"] == before["document"]["parts"]


def test_a_known_length_scales_the_whole(client, empty):
    kept = bring(client, empty.slug).json()["id"]
    line = post(client, f"brought/{kept}/line", {"at": {"x": 20, "y": -31.75}}).json()
    assert line["length"] == pytest.approx(150 * 25.4 / 96)
    known = {"known": {"shown": line["unscaled"], "should": {"text": "150 mm"}}}
    scaled = post(client, f"brought/{kept}/look", known).json()
    assert scaled["width"] == pytest.approx(270) and scaled["unscaled"] == pytest.approx(270 * 25.4 / 96)
    refused = post(client, f"brought/{kept}/look", {"known": {"shown": 1, "should": {"text": "wide"}}})
    assert refused.status_code == 422 and "wide" in refused.json()["message"]


@pytest.mark.parametrize(
    ("data", "says"),
    [
        (b"<svg><g></svg>", "broken at line 1"),
        (b"no drawing", "cannot be read"),
        (b'<svg xmlns="http://www.w3.org/2000/svg"/>', "holds no lines"),
    ],
)
def test_what_is_no_drawing_is_refused_and_not_kept(client, empty, data, says):
    kept = bring(client, empty.slug, data, "../../etc/evil.dxf" if data == b"no drawing" else "evil.svg").json()
    run = client.get(f"/api/runs/{kept['run']}").json()
    assert run["state"] == "failed" and says in run["message"]
    assert not BroughtFile.objects.exists() and client.get(f"/api/brought/{kept['id']}").status_code == 404


def test_a_file_keeps_only_its_name_and_takes_parts_of_a_stock_that_is_there(client, empty):
    kept = bring(client, empty.slug, LABELS, "..%2F..%5Chome%2Fsheet.svg").json()
    assert kept["name"] == "sheet.svg"
    for wrong in ({"stock": "none"}, {"stock": "ply", "parts": []}):
        answer = post(client, f"brought/{kept['id']}/take", {"version": 1, "stock": "birch", **wrong})
        assert answer.status_code == 422
    assert client.get("/api/brought/999/file").status_code == 404


def sheet(wide, layer="outlines"):
    """A plate, and a disc that is not there when the plate is wide."""
    plate = f'<g id="{layer}"><rect x="5" y="5" width="{wide}" height="40" fill="none" stroke="black"/></g>'
    disc = '<g id="disc"><circle cx="150" cy="20" r="10" fill="none" stroke="red"/></g>' if wide < 110 else ""
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" width="200mm" height="60mm" viewBox="0 0 200 60">{plate}{disc}</svg>'
    ).encode()


@pytest.mark.parametrize(("squares", "apart"), [(125, False), (126, True)])
def test_what_closes_is_counted_in_a_process_of_its_own_where_a_drawing_is_large(
    client, empty, monkeypatch, squares, apart
):
    """All that is worked out of a large drawing of somebody else's is: lines that cross took 260 MB of the server."""
    calls = []
    begun = kept.apart
    monkeypatch.setattr(kept, "apart", lambda work, *given, **more: calls.append(work) or begun(work, *given, **more))
    rows = "".join(f'<path d="M{at % 20 * 9} {at // 20 * 7}h6v5h-6z" stroke="black"/>' for at in range(squares))
    data = f'<svg xmlns="http://www.w3.org/2000/svg" width="200mm" height="60mm" viewBox="0 0 200 60">{rows}</svg>'
    file = bring(client, empty.slug, data.encode(), "squares.svg").json()["id"]
    looked = client.get(f"/api/brought/{file}").json()
    told = post(client, f"brought/{file}/joined", looked["choices"]).json()
    assert told["closed"] == squares
    assert (joined_apart in calls) == apart


def test_a_newer_file_changes_its_parts_and_is_looked_at_as_the_earlier_one_was(client, empty):
    before = shown(client, empty.slug)
    stock = before["document"]["stocks"][0]["id"]
    first = bring(client, empty.slug, sheet(100), "shelf.svg").json()["id"]
    choices = {"join": 0.2, "purposes": {"disc": "cut"}}
    taken = post(client, f"brought/{first}/take", {"version": 1, "choices": choices, "stock": stock})
    assert [p["name"] for p in merged(before, taken.json())["document"]["parts"][1:]] == ["outlines", "disc"]
    path = f"/api/brought/{first}/again?name=shelf_2.svg"
    newer = client.post(path, sheet(120), content_type="application/octet-stream").json()
    assert newer["earlier"] == "shelf.svg"
    begun = client.get(f"/api/brought/{newer['id']}").json()
    assert begun["choices"]["join"] == 0.2 and begun["made_for"] == "shelf.svg"
    told = [(row["what"], row["name"], row["how"]) for row in begun["again"]["rows"]]
    assert told == [("changed", "outlines", "100 mm x 40 mm is now 120 mm x 40 mm"), ("gone", "disc", "")]
    was = shown(client, empty.slug)
    body = {"version": 2, "choices": begun["choices"], "into": "again", "parts": [0], "stock": stock}
    # What is gone is removed only if the maker says so, and nothing that is not gone is removed by it.
    answer = post(client, f"brought/{newer['id']}/take", {**body, "gone": ["one"]}).json()
    now = merged(was, answer)["document"]["parts"]
    assert [(p["id"], p["shape"]["width"]["text"]) for p in now[1:]] == [("outlines", "120"), ("disc", "20")]
    was = shown(client, empty.slug)
    answer = post(client, f"brought/{newer['id']}/take", {**body, "version": 3, "parts": [], "gone": ["disc"]}).json()
    assert [p["id"] for p in merged(was, answer)["document"]["parts"]] == ["one", "outlines"]
    assert answer["undo"] == "shelf_2.svg brought again: 1 removed"


def test_what_lines_are_for_is_remembered_for_files_of_the_same_making(client, empty):
    first = bring(client, empty.slug, sheet(100), "one.svg").json()["id"]
    choices = {"purposes": {"disc": "engrave"}, "unit": "in"}
    post(client, f"brought/{first}/take", {"version": 1, "choices": choices, "stock": "ply"})
    alike = client.get(f"/api/brought/{bring(client, empty.slug, sheet(90), 'two.svg').json()['id']}").json()
    assert (alike["made_for"], alike["choices"]["purposes"]) == ("one.svg", {"disc": "engrave"})
    # A unit belongs to one file only.
    assert alike["choices"]["unit"] is None
    other = client.get(f"/api/brought/{bring(client, empty.slug, sheet(90, 'x'), '3.svg').json()['id']}").json()
    assert (other["made_for"], other["choices"]["purposes"]) == ("", {})


def test_shapes_and_an_outline_are_taken_onto_a_part_that_is_there(client, empty):
    kept = bring(client, empty.slug, sheet(20), "motif.svg").json()["id"]
    before = shown(client, empty.slug)
    body = {"version": 1, "into": "cut out", "onto": "one", "parts": [1]}
    now = merged(before, post(client, f"brought/{kept}/take", body).json())
    assert now["parts"][0]["area"] == pytest.approx(40 * 30 - 3.14159 * 100, abs=0.01)
    assert (
        post(client, f"brought/{kept}/take", {**body, "version": 2, "into": "outline", "parts": [0, 1]}).status_code
        == 422
    )
    answer = post(client, f"brought/{kept}/take", {**body, "version": 2, "into": "outline", "parts": [0]}).json()
    now = merged(now, answer)
    assert (now["parts"][0]["width"], now["parts"][0]["height"]) == (20, 40)


def drawn(inside):
    head = '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 900 900" width="900mm">'
    return f"{head}{inside}</svg>".encode()


def test_a_drawing_whose_lines_cross_without_end_holds_nobody_up(client, empty, monkeypatch):
    """A path of thousands of points that crosses itself is brought apart from the server, which keeps its bounds."""
    chance = random.Random(3)
    points = " ".join(f"{chance.random() * 900:.2f},{chance.random() * 900:.2f}" for _ in range(9000))
    found = bring(client, empty.slug, drawn(f'<polygon points="{points}"/>'), "knot.svg").json()
    here = []
    monkeypatch.setattr(kept, "BOUNDS", Bounds(seconds=1, megabytes=600))
    monkeypatch.setattr(kept, "as_brought", lambda *given: here.append(given))
    answer = client.get(f"/api/brought/{found['id']}")
    assert answer.status_code == 422 and "more than 1 s" in answer.json()["message"] and not here


def test_a_drawing_is_brought_once_for_its_choices_and_not_in_the_server(client, empty, monkeypatch):
    tried, real = [], kept.apart

    def counted(work, *more, **bounds):
        tried.append(work.__name__)
        return real(work, *more, **bounds)

    monkeypatch.setattr(kept, "apart", counted)
    squares = "".join(f'<path d="M{12 * (i % 30)} {12 * (i // 30)}h10v10h-10z"/>' for i in range(500))
    found = bring(client, empty.slug, drawn(squares), "tags.svg").json()
    for _ in range(2):
        assert client.get(f"/api/brought/{found['id']}").json()["parts"][0]["count"] == 500
    assert tried.count("brought_apart") == 1


def test_a_file_is_deleted_had_back_and_gone_after_thirty_days(client, empty):
    id = bring(client, empty.slug).json()["id"]

    def listed():
        return [(f["id"], bool(f["deleted"])) for f in client.get(f"/api/projects/{empty.slug}/brought").json()]

    assert client.delete(f"/api/brought/{id}").status_code == 204
    assert listed() == [(id, True)] and client.get(f"/api/brought/{id}").status_code == 404
    assert client.delete(f"/api/brought/{id}").status_code == 404
    assert post(client, f"brought/{id}/restore", {}).status_code == 204
    assert listed() == [(id, False)] and post(client, f"brought/{id}/restore", {}).status_code == 404
    # A day before it is over it is still there, a day after it is gone.
    for days, left in ((29, [(id, True)]), (31, [])):
        BroughtFile.objects.filter(id=id).update(deleted=timezone.now() - timedelta(days=days))
        take_away_what_is_over()
        assert listed() == left
    assert not BroughtFile.objects.exists() and client.get(f"/api/projects/{empty.slug}").status_code == 200
