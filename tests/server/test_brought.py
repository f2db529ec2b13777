"""Drawings that others made, through the API: kept as they were, looked at by choices, and taken as one edit."""

import pytest
from workshop.brought import _known
from workshop.models import BroughtFile
from workshop.revisions import create

from ..projects import ROOT, part, project
from .calls import merged, post, shown

LABELS = (ROOT / "demo" / "brought" / "specimen_labels.svg").read_bytes()


@pytest.fixture
def empty(db):
    _known.cache_clear()
    return create(project([part("one", 40, 30)]))


def bring(client, slug, data=LABELS, name="specimen_labels.svg"):
    path = f"/api/projects/{slug}/brought?name={name}"
    return client.post(path, data, content_type="application/octet-stream")


def test_a_drawing_is_kept_looked_at_and_taken_in_one_step_of_undo(client, empty):
    kept = bring(client, empty.slug).json()
    assert [file["name"] for file in client.get(f"/api/projects/{empty.slug}/brought").json()] == [
        "specimen_labels.svg"
    ]
    assert b"".join(client.get(f"/api/brought/{kept['id']}/file")) == LABELS
    as_read = post(client, f"brought/{kept['id']}/look", {}).json()
    assert (as_read["unit"], as_read["unit_stated"], as_read["mend"]["open"]) == ("px", False, 2)
    # 0.25 px of 26.458 mm to the hundred.
    assert as_read["mend"]["gap"] == pytest.approx(0.25 * 0.26458, abs=1e-4)
    choices = {"unit": "mm", "join": 0.3}
    mended = post(client, f"brought/{kept['id']}/look", choices).json()
    assert [(p["count"], round(p["width"], 3)) for p in mended["parts"]] == [(6, 70), (1, 150), (2, 40)]
    assert [(row["key"], row["purpose"]) for row in mended["rows"]] == [("outlines", "cut"), ("score", "score")]
    before = shown(client, empty.slug)
    assert len(before["document"]["parts"]) == 1
    body = {"version": 1, "choices": choices, "parts": [0, 2], "stock": before["document"]["stocks"][0]["id"]}
    taken = merged(before, post(client, f"brought/{kept['id']}/take", body).json())
    assert taken == shown(client, empty.slug)
    assert [(p["name"], p["count"]) for p in taken["document"]["parts"][1:]] == [("Part 1", 6), ("Part 3", 2)]
    assert taken["undo"] == "2 parts brought from specimen_labels.svg"
    post(client, f"projects/{empty.slug}/undo", {"version": 2})
    assert shown(client, empty.slug)["document"]["parts"] == before["document"]["parts"]


def test_a_known_length_scales_the_whole(client, empty):
    kept = bring(client, empty.slug).json()["id"]
    line = post(client, f"brought/{kept}/line", {"x": 20, "y": -31.75}).json()
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
    refused = bring(client, empty.slug, data, "../../etc/evil.dxf" if data == b"no drawing" else "evil.svg")
    assert refused.status_code == 422 and says in refused.json()["message"]
    assert not BroughtFile.objects.exists()


def test_a_file_keeps_only_its_name_and_takes_parts_of_a_stock_that_is_there(client, empty):
    kept = bring(client, empty.slug, LABELS, "..%2F..%5Chome%2Fsheet.svg").json()
    assert kept["name"] == "sheet.svg"
    for wrong in ({"stock": "none"}, {"stock": "ply", "parts": []}):
        answer = post(client, f"brought/{kept['id']}/take", {"version": 1, "stock": "birch", **wrong})
        assert answer.status_code == 422
    assert client.get("/api/brought/999/file").status_code == 404
