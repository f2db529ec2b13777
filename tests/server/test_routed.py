"""The router over the API: the rack, programs, facing, and the simulated machine with its cutters."""

import base64
import io
import json
import zipfile

import pytest
from leannotch_core.drawings.gcode.words import Dialect
from leannotch_core.facts.profiles.shipped import shipped
from leannotch_core.proof.depth.program import read_program
from leannotch_core.proof.depth.swept import SweptCutter, gone

from .calls import edit

HEAD = {"content_type": "application/json"}


@pytest.fixture
def staff(client, tray):
    """The demo's cross-staff: three cutters, a recess half through."""
    return client.get("/api/projects/cross-staff").json()


def prepared(client, slug="cross-staff"):
    return client.get(f"/api/projects/{slug}/prepared/1").json()


def test_a_routed_sheet_tells_its_cutters_passes_and_chip_loads(client, staff):
    told = prepared(client)
    assert told["routed"] and told["thickness"] == pytest.approx(8.95)
    assert [round(one["width"], 3) for one in told["cutters"]] == [12.7, 6.35, 3.175]
    worked = {row["stage"]: row["worked"] for row in told["rows"]}
    assert worked["outer"]["passes"] == 3 and worked["pocket"]["passes"] == 1
    for row in worked.values():
        assert row["least"] <= row["chip"] <= row["most"]
    moves = client.get("/api/projects/cross-staff/moves/1").json()
    assert len(moves["z"]) == len(moves["ends"]) == len(moves["wide"]) and min(moves["z"]) == pytest.approx(-9.1)


def test_a_stepdown_changes_passes_and_time_and_nonsense_is_refused(client, staff):
    before = prepared(client)
    setting = next(row["setting"] for row in before["rows"] if row["stage"] == "outer")
    command = {"do": "set setting", "stock": "birch", "setting": {**setting, "stepdown": 1.2}}
    after = edit(client, "cross-staff", staff["version"], command).json()
    told = prepared(client)
    assert next(row["worked"]["passes"] for row in told["rows"] if row["stage"] == "outer") == 8
    assert told["seconds"] > 1.5 * before["seconds"]
    for change, says in (({"stepdown": 0}, "never gets through"), ({"stepdown": 99}, "cuts 15 mm deep")):
        bad = {"do": "set setting", "stock": "birch", "setting": {**setting, **change}}
        answer = edit(client, "cross-staff", after["version"], bad)
        assert answer.status_code == 422 and says in answer.json()["message"]


def test_the_library_keeps_cutters(client, tray):
    shown = client.get("/api/cutters").json()
    assert {"6.35 upcut", "V 60°"} <= {one["name"] for one in shown}
    mine = {**shown[0], "name": "My mill", "readings": [{"text": "6.3", "unit": "mm"}]}
    assert client.post("/api/cutters", json.dumps(mine), **HEAD).json() == {"kept": True}
    kept = client.get("/api/cutters").json()
    assert [one["readings"][0]["text"] for one in kept if one["name"] == "My mill"] == ["6.3"]


def test_one_program_or_one_for_each_cutter_is_proved_and_handed_over(client, staff):
    whole = client.get("/api/projects/cross-staff/sheets/1.nc")
    assert whole.status_code == 200 and whole.content.count(b" M0\n") == 2
    wanted = {**staff["document"]["hand_over"], "programs": "one a cutter"}
    edit(client, "cross-staff", staff["version"], {"do": "set hand-over", "hand_over": wanted})
    answer = client.get("/api/projects/cross-staff/sheets/1.nc")
    assert answer["Content-Type"] == "application/zip"
    files = zipfile.ZipFile(io.BytesIO(answer.content))
    assert sorted(name.rsplit("-router-", 1)[1] for name in files.namelist()) == [
        "3175-upcut.nc",
        "635-upcut.nc",
        "v-60.nc",
    ]
    assert all(files.read(name).rstrip().endswith(b"M2") for name in files.namelist())


def test_facing_is_a_program_that_leaves_nothing_of_the_board_untouched(client, staff):
    query = "cutter=c_6_35_upcut&left=0&bottom=0&width=200&height=150&depth=0.5&stepover=0.6"
    answer = client.get(f"/api/projects/cross-staff/facing?{query}")
    assert answer.status_code == 200
    way = read_program([answer.content], Dialect.of(shipped()["router"])).way
    assert gone(way, -0.5, {1: SweptCutter(6.35)}).buffer(0.01).area >= 200 * 150
    refused = client.get(f"/api/projects/cross-staff/facing?{query.replace('depth=0.5', 'depth=0')}")
    assert refused.status_code == 422 and "more than 0" in refused.json()["message"]


def call(client, path, **body):
    return client.post(f"/api/device/{path}", json.dumps(body), **HEAD).json()


def test_the_machine_waits_for_each_cutter_and_stops_where_it_is_not_put_in(client, staff):
    program = client.get("/api/projects/cross-staff/sheets/1.nc").content
    told = prepared(client)
    laid = {"width": 600, "height": 400, "thickness": 8.95, "tall": 4, "cutters": told["cutters"]}
    profile = shipped()["router"].model_dump(mode="json")
    sent = call(client, "file", name="staff.nc", data=base64.b64encode(program).decode(), profile=profile, laid=laid)
    assert sent["seconds"] == pytest.approx(told["seconds"], rel=1e-3)
    call(client, "home")
    call(client, "times", times=200)
    call(client, "start")
    waiting = _until(client, "paused")
    assert (waiting["cutter"], waiting["wanted"]) == (1, 2)
    # Going on with the wrong cutter in is an alarm; putting it in settles that.
    alarm = call(client, "go-on")
    assert alarm["state"] == "alarm" and alarm["alarms"]
    assert call(client, "cutter")["cutter"] == 2
    assert call(client, "go-on")["state"] == "running"
    assert _until(client, "paused")["wanted"] == 3
    call(client, "cutter")
    call(client, "go-on")
    done = _until(client, "done")
    assert not done["alarms"]
    load = client.get("/api/device/moves").json()
    assert max(load["chip"]) < 0.3 and 0 < max(load["engaged"]) <= 12.7


def _until(client, state):
    """Asks as the page does until the machine is in a state."""
    while (shown := client.get("/api/device").json())["state"] == "running":
        pass
    assert shown["state"] == state, shown["log"]
    return shown
