"""Whoever follows the pages on adding things comes to where the type checks of both sides hold and the thing works."""

import os
import shutil
import subprocess
import sys

import pytest

from ..projects import ROOT
from .added import FILES, LINES

ROOMS = ("core", "server", "cli", "bench", "demo", "tests", "web")


@pytest.fixture(scope="module")
def house(tmp_path_factory):
    """A copy of the house with all of it added."""
    root = tmp_path_factory.mktemp("house")
    leave = shutil.ignore_patterns("__pycache__", "node_modules", "dist")
    for room in ROOMS:
        shutil.copytree(ROOT / room, root / room, ignore=leave)
    (root / "web" / "node_modules").symlink_to(ROOT / "web" / "node_modules")
    shutil.copy(ROOT / "pyproject.toml", root)
    if (ROOT / ".mypy_cache").exists():
        shutil.copytree(ROOT / ".mypy_cache", root / ".mypy_cache")
    for path, source in FILES.items():
        (root / path).parent.mkdir(exist_ok=True)
        (root / path).write_text(source)
    for path, lines in LINES.items():
        source = (root / path).read_text()
        for was, now in lines.items():
            assert source.count(was) == 1, (path, was)
            source = source.replace(was, now)
        (root / path).write_text(source)
    return root


def run(house, *command, folder="."):
    own = os.environ | {
        "PYTHONPATH": ":".join(str(house / room) for room in ("core", "server", "cli", "demo", "")),
        "NOTCH_DATA": str(house / "data"),
    }
    # The settings of these tests are not those of the house.
    own.pop("DJANGO_SETTINGS_MODULE", None)
    done = subprocess.run(command, cwd=house / folder, env=own, capture_output=True, text=True, check=False)
    assert done.returncode == 0, done.stdout[-3000:] + done.stderr[-3000:]


def test_what_is_added_works(house):
    run(house, sys.executable, "-m", "tests.adding.used")


def test_the_core_and_the_server_hold_with_it(house):
    run(house, sys.executable, "-m", "mypy")


def test_the_page_holds_with_it(house):
    run(house, sys.executable, "-m", "leannotch_core.tables", "web/src/api")
    export = ("export_openapi_schema", "--api", "leannotch.api.api", "--output", "web/openapi.json")
    run(house, sys.executable, "server/manage.py", *export)
    run(house, "npm", "run", "--silent", "types", folder="web")
    run(house, "npm", "run", "--silent", "check", folder="web")
