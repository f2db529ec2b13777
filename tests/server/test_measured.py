"""Lengths that are asked for, and what is told of their readings."""

import pytest
from leannotch_core.facts.profiles.shipped import shipped

from .calls import edit, post, shown

TRAY = "sorting-tray"


def measured(client):
    return client.get(f"/api/projects/{TRAY}/measured").json()


def measure(client, **readings):
    """Readings of parts by their name and way, such as ``floor_across``."""
    named = [(*name.rsplit("_", 1), read) for name, read in readings.items()]
    typed = [{"part": part, "way": way, "reading": read} for part, way, read in named]
    command = {"do": "measure parts", "id": "first", "date": "2026-11-27", "readings": typed}
    return edit(client, TRAY, shown(client, TRAY)["version"], command)


def test_the_most_telling_lengths_come_first_and_every_other_one_is_there(client, tray):
    birch, acrylic = measured(client)["stocks"]
    assert [one["asked"] for one in birch["lengths"]][:7] == [True] * 6 + [False]
    floor = next(one for one in birch["lengths"] if (one["part"], one["way"]) == ("floor", "across"))
    assert floor["meant"] == 240 and floor["called"] == "Floor: width"
    assert floor["x2"] - floor["x1"] == pytest.approx(240) and floor["y1"] == pytest.approx(floor["y2"])
    assert acrylic["stock"] == "acrylic" and measured(client)["measured"] == []


def test_readings_are_told_with_their_causes_and_stay_as_they_were_meant_when_a_part_is_changed(client, tray):
    assert measure(client, floor_across="239.95", floor_up="179.95", long_wall_up="44.95").status_code == 200
    [told] = measured(client)["measured"]
    assert (told["kerf"], told["machine"], told["routed"]) == (0.16, "club_laser", False)
    assert [(read["meant"], read["value"], read["left_out"]) for read in told["reads"]] == [
        (240, 239.95, None),
        (180, 179.95, None),
        (45, 44.95, None),
    ]
    kerf, x, y, *_ = told["estimates"]
    assert kerf["cause"] == "kerf" and 0 < kerf["value"] < 0.06 and kerf["sure"] > 0.02
    assert (x["cause"], y["cause"]) == ("scale x", "scale y")
    version = shown(client, TRAY)["version"]
    longer = {"do": "put name", "name": {"name": "tray_length", "size": "260"}}
    assert edit(client, TRAY, version, longer).status_code == 200
    # One more is added: those of before keep what they were cut as.
    assert measure(client, floor_across="239.95", long_wall_across="259.95").status_code == 200
    [told] = measured(client)["measured"]
    assert [read["meant"] for read in told["reads"]] == [240, 260]
    # Corrected on another day they are still of that day; what is of another stock is measured by itself.
    again = {"do": "measure parts", "id": "first", "date": "2026-12-01"}
    read = {"part": "floor", "way": "across", "reading": "239.96"}
    assert edit(client, TRAY, shown(client, TRAY)["version"], again | {"readings": [read]}).status_code == 200
    assert measured(client)["measured"][0]["date"] == "2026-11-27"
    other = {"part": "lengthways", "way": "up", "reading": "20"}
    refused = edit(client, TRAY, shown(client, TRAY)["version"], again | {"readings": [read, other]})
    assert refused.status_code == 422 and "of several stocks" in refused.json()["message"]


def test_what_is_no_reading_is_refused_in_words_and_what_is_impossible_is_left_out(client, tray):
    refused = measure(client, floor_across="-3")
    assert refused.status_code == 422 and "The reading of 240.00 mm" in refused.json()["message"]
    refused = measure(client, floor_across="wide*2")
    assert refused.status_code == 422
    assert measure(client, floor_across="9.45").status_code == 200
    [told] = measured(client)["measured"]
    assert told["reads"][0]["left_out"] == "inches"
    taken = edit(client, TRAY, shown(client, TRAY)["version"], {"do": "take measured kerf", "id": "first"})
    assert taken.status_code == 422 and "do not tell the kerf yet" in taken.json()["message"]
    assert post(client, f"projects/{TRAY}/undo", {"version": shown(client, TRAY)["version"]}).status_code == 200
    assert measured(client)["measured"] == []


def test_a_machine_for_practice_gives_its_parts_to_be_read_and_a_real_one_does_not(client, tray):
    asked = f"/api/projects/{TRAY}/picked-up?stock=birch&id=first"
    refused = client.get(asked)
    assert refused.status_code == 404 and "Club laser is real" in refused.json()["message"]
    profile = shipped()["practice_laser"].model_dump()
    for command in ({"do": "put machine", "machine": profile}, {"do": "use machine", "machine": profile["id"]}):
        assert edit(client, TRAY, shown(client, TRAY)["version"], command).status_code == 200
    read = client.get(asked).json()
    assert read == client.get(asked).json() and len(read) == 6
    command = {"do": "measure parts", "id": "first", "date": "2026-11-27", "readings": read}
    assert edit(client, TRAY, shown(client, TRAY)["version"], command).status_code == 200
    [told] = measured(client)["measured"]
    kerf = told["estimates"][0]
    assert kerf["told"] and abs(told["kerf"] + kerf["value"] - profile["lies"]["kerf"]) <= kerf["sure"]
    assert "no part of this stock" in client.get(asked.replace("birch", "gone")).json()["message"]
