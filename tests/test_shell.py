"""One command line: help for each command, one way to say what is refused, and nothing left behind in the process."""

import os

import pytest
from lean_notch import command
from leannotch_core.drawings import apart

from .shell import of


@pytest.mark.parametrize("name", command.COMMANDS)
def test_each_command_tells_of_itself(name, capsys):
    assert of(name)(["--help"]) == 0
    said = capsys.readouterr().out
    assert said.startswith(f"Usage: lean-notch {name} ") and "--help" in said and len(said.splitlines()) > 4


def test_the_whole_tells_of_its_commands_and_of_its_version(capsys):
    assert command.status_of(["--help"]) == 0
    said = capsys.readouterr().out
    assert all(f"  {name} " in said and does.says.split(",")[0] in said for name, does in command.COMMANDS.items())
    assert command.status_of(["--version"]) == 0 and "Lean Notch, version 0." in capsys.readouterr().out
    assert command.status_of(["saw"]) == 2 and "No such command 'saw'" in capsys.readouterr().err


def test_what_is_refused_is_said_in_one_way_with_one_status(tmp_path, capsys):
    calls = {
        "proof": [tmp_path / "gone.svg", "--kerf", "0.1"],
        "machine": [tmp_path / "gone.nc", "--profile", "laser"],
        "bring": [tmp_path / "gone.svg", "--out", tmp_path / "a.json"],
        "backup": [tmp_path],
    }
    for name, arguments in calls.items():
        assert of(name)(arguments) == 2
        said = capsys.readouterr()
        assert said.err.startswith(f"lean-notch {name}: {tmp_path}") and not said.out and "Traceback" not in said.err
        assert said.err.rstrip().endswith(".")


def test_a_fault_of_ours_shows_its_trace(tmp_path, monkeypatch):
    path = tmp_path / "a.svg"
    path.write_text("<svg xmlns='http://www.w3.org/2000/svg' width='9mm' height='9mm'/>")
    monkeypatch.setattr(apart, "_told", lambda *_: 1 / 0)
    with pytest.raises(ZeroDivisionError):
        of("proof")([path, "--kerf", "0.1"])


def test_a_command_leaves_the_environment_as_it_was(tmp_path):
    before = dict(os.environ)
    of("proof")([tmp_path / "gone.svg", "--kerf", "0.1"])
    of("restore")(["2001-01-01"])
    assert {key: value for key, value in os.environ.items() if key != "PYTEST_CURRENT_TEST"} == {
        key: value for key, value in before.items() if key != "PYTEST_CURRENT_TEST"
    }
