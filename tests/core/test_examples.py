"""Examples in the docstrings of the core say what really comes out."""

import doctest
import importlib

import pytest

from ..projects import ROOT

CORE = ROOT / "core" / "leannotch_core"

#: Every module with an example in it.
MODULES = sorted(
    ".".join(path.relative_to(ROOT / "core").with_suffix("").parts)
    for path in CORE.rglob("*.py")
    if ">>> " in path.read_text()
)


@pytest.mark.parametrize("name", MODULES)
def test_examples_say_what_comes_out(name):
    found = doctest.testmod(importlib.import_module(name), optionflags=doctest.ELLIPSIS)
    assert found.attempted and not found.failed


def test_geometry_joints_bends_sizes_and_cutters_have_examples():
    rooms = {name.split(".")[1] for name in MODULES}
    assert {"geometry", "joints", "bends", "document", "facts"} <= rooms
