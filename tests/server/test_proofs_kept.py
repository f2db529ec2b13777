"""A proof stands for the state that was proved, and for no other."""

import pytest
from workshop import proofs
from workshop.models import Proved

from .calls import edited, post, shown
from .test_projects import listed

pytestmark = pytest.mark.django_db


def is_proved(client):
    told = shown(client, "sorting-tray")
    return told["proof"] and told["proof"]["now"], listed(client)["sorting-tray"]["stands"]


def name(text):
    return {"do": "rename project", "name": text}


def step(client, which):
    return post(client, f"projects/sorting-tray/{which}", {"version": shown(client, "sorting-tray")["version"]})


def test_a_proof_stands_until_something_is_changed_and_again_when_that_is_undone(client, tray):
    assert is_proved(client) == (None, "laid out")
    assert client.get("/api/projects/sorting-tray/proof").json() is None
    proved = post(client, "projects/sorting-tray/prove", {}).json()["proof"]
    assert is_proved(client) == (True, "proved")
    assert {**client.get("/api/projects/sorting-tray/proof").json(), "version": 0} == {**proved, "version": 0}
    told = shown(client, "sorting-tray")["proof"]
    assert (told["parts"], told["faults"]) == (8, 0)
    edited(client, "sorting-tray", tray.version, name("Another tray"))
    assert is_proved(client) == (False, "laid out")
    assert step(client, "undo").status_code == 200
    assert is_proved(client) == (True, "proved")
    back = client.get("/api/projects/sorting-tray/proof").json()
    assert back["version"] == shown(client, "sorting-tray")["version"] != proved["version"]


def test_what_the_proof_finds_is_a_note_like_any_other(client, tray):
    # A wall is pushed onto the floor: the beam crosses both.
    lying = shown(client, "sorting-tray")["document"]["layout"]["placements"]
    floor, wall = (next(one for one in lying if one["part"] == part) for part in ("floor", "long_wall"))
    onto = {**wall, "x": floor["x"] + 20, "y": floor["y"] + 20, "turn": 0}
    edited(client, "sorting-tray", tray.version, {"do": "place parts", "placements": [onto]})
    found = post(client, "projects/sorting-tray/prove", {}).json()["proof"]["sheets"][0]["faults"]
    assert found and is_proved(client) == (True, "faulty")
    notes = [one for one in shown(client, "sorting-tray")["findings"] if one["code"] == "proved-wrong"]
    assert {note["text"].split(": ")[0] for note in notes} == {"Sheet 1, proved"}
    crossing = next(fault for fault in found if fault["code"] == "crossing")
    [told] = [note for note in notes if crossing["text"] in note["text"]]
    assert crossing["mend"] in told["text"]
    assert (told["place"]["kind"], told["place"]["id"]) == ("sheet", "0")
    assert (told["place"]["x"], told["place"]["y"]) == (crossing["x"], crossing["y"])
    told = client.get("/api/projects/sorting-tray/findings").json()
    assert told["proof"]["faults"] == len(found) and "proved-wrong" in {one["code"] for one in told["findings"]}
    step(client, "undo")
    assert "proved-wrong" not in {one["code"] for one in shown(client, "sorting-tray")["findings"]}


def test_a_proof_by_other_rules_says_nothing_and_few_are_kept(client, tray, monkeypatch):
    post(client, "projects/sorting-tray/prove", {})
    monkeypatch.setattr(proofs, "_this_program", lambda: "another")
    assert is_proved(client) == (None, "laid out")
    monkeypatch.setattr(proofs, "_KEPT", 2)
    for number in range(3):
        edited(client, "sorting-tray", shown(client, "sorting-tray")["version"], name(f"Tray {number}"))
        post(client, "projects/sorting-tray/prove", {})
        post(client, "projects/sorting-tray/prove", {})
    assert Proved.objects.count() == 2 and is_proved(client) == (True, "proved")
    for _ in range(2):
        step(client, "undo")
    assert is_proved(client) == (False, "laid out")
