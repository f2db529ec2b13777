"""A file from elsewhere held against a sheet, and the machine and the proof telling the same of one program."""

import json
import subprocess
import sys

import pytest
from leannotch_core.facts.profiles.shipped import shipped

from ..projects import ROOT


def proof_of(client, data, name, sheet=1, slug="sorting-tray"):
    path = f"/api/projects/{slug}/sheets/{sheet}/proof/{name}"
    return client.post(path, data, content_type="application/octet-stream")


def sheet_file(client, kind):
    return client.get(f"/api/projects/sorting-tray/sheets/1.{kind}").content


@pytest.mark.parametrize("kind", ["svg", "dxf", "pdf", "nc"])
def test_the_own_file_of_a_sheet_is_right_and_that_of_another_is_not(client, tray, kind):
    own = sheet_file(client, kind)
    told = proof_of(client, own, f"tray.{kind}").json()
    assert told["faults"] == [] and len(told["parts"]) == 5 and all(check["good"] for check in told["checks"])
    other = proof_of(client, own, f"tray.{kind}", sheet=2).json()
    assert {fault["code"] for fault in other["faults"]} >= {"not-free"}
    assert all(fault["mend"] and fault["station"] for fault in other["faults"])


def test_a_line_that_was_lost_is_told_at_its_place_with_its_mend(client, tray):
    lines = sheet_file(client, "svg").decode().split("\n")
    at = next(number for number, line in enumerate(lines) if line.startswith('<g id="cut"')) + 1
    told = proof_of(client, "\n".join(lines[:at] + lines[at + 1 :]).encode(), "tray.svg").json()
    placed = [fault for fault in told["faults"] if fault["x"] is not None]
    assert placed and 0 <= placed[0]["x"] <= 400 and 0 <= placed[0]["y"] <= 300
    assert "cut-outs of" in placed[0]["text"] and placed[0]["station"] == "Shape"


@pytest.mark.parametrize(
    ("data", "name", "says"),
    [
        (b"", "x.svg", "SVG"),
        (b"\x00\xff" * 400, "x.dxf", "DXF"),
        (b"%PDF-1.4 nothing", "x.pdf", "PDF"),
        (b"G1 X1", "x.nc", "needs an F"),
        (b"<svg/>", "x.exe", "ends in neither .svg nor .dxf nor .pdf nor .nc"),
        (b'<!DOCTYPE s [<!ENTITY e SYSTEM "file:///etc/passwd">]><svg>&e;</svg>', "x.svg", ""),
    ],
)
def test_what_cannot_be_read_is_said_and_is_a_fault(client, tray, data, name, says):
    answer = proof_of(client, data, name)
    assert answer.status_code in (200, 422)
    told = answer.json()
    said = told["message"] if answer.status_code == 422 else told["faults"][0]["text"]
    assert says in said and "Traceback" not in said
    assert proof_of(client, data, name, sheet=9).status_code == 404


def test_the_machine_and_the_proof_tell_the_same_of_one_program(client, tray, tmp_path):
    """S beyond what the machine has: it stops at that line, and Hand over would refuse the file with the same words."""
    program = sheet_file(client, "nc").decode().replace(" S700", " S1700", 1)
    path = tmp_path / "tray.nc"
    path.write_text(program)
    profile = tmp_path / "laser.json"
    profile.write_text(shipped()["laser"].model_dump_json())
    command = [sys.executable, "-m", "lean_notch", "machine", str(path), "--profile", str(profile), "--json"]
    done = subprocess.run(command, capture_output=True, text=True, check=True, cwd=ROOT, env={"PYTHONPATH": "core:cli"})
    [alarm] = json.loads(done.stdout)["alarms"]
    told = proof_of(client, program.encode(), "tray.nc").json()
    [fault] = [fault for fault in told["faults"] if fault["code"] == "alarm"]
    assert fault["text"] == f"Club laser stops at line {alarm['line']}: {alarm['text']}"
    assert {"power"} <= {fault["code"] for fault in told["faults"]}
