"""The walls of the house: imports run one way, the core knows no server, the proof's own eyes share nothing with what
they judge.
"""

import ast
from collections import defaultdict
from functools import cache

import pytest

from .projects import ROOT

CORE, SERVER = ROOT / "core", ROOT / "server"

#: What makes the shapes that a proof judges, and what writes its files.
KERNEL = {"arrangement", "boolean", "chords", "meet", "offset", "pieces", "winding"}

#: What of the proof reads a file and sweeps it: the rest holds that against what was meant, and knows the project.
EYES = ("sweep", "chords", "hanging", "shared", "round_beam", "bends", "against", "depth.program", "depth.swept")


@cache
def modules(root):
    """Every module below a folder, by its name, with the names of all that it imports."""
    names = {_name(path, root): path for path in root.rglob("*.py") if "migrations" not in path.parts}
    return {name: frozenset(_imported(name, path, names)) for name, path in names.items()}


def _name(path, root):
    return ".".join(path.relative_to(root).with_suffix("").parts).removesuffix(".__init__")


def _imported(name, path, names):
    parts = name.split(".") if path.name == "__init__.py" else name.split(".")[:-1]
    for node in ast.walk(ast.parse(path.read_text())):
        if isinstance(node, ast.Import):
            yield from (alias.name for alias in node.names)
        elif isinstance(node, ast.ImportFrom):
            base = parts[: len(parts) - node.level + 1] if node.level else []
            of = ".".join([*base, *([node.module] if node.module else [])])
            yield from (f"{of}.{alias.name}" if f"{of}.{alias.name}" in names else of for alias in node.names)


def rooms(root, depth):
    """Which rooms each room imports from; a room is called by the first names of its modules."""
    found = defaultdict(set)
    for name, imported in modules(root).items():
        here = ".".join(name.split(".")[:depth])
        there = {".".join(one.split(".")[:depth]) for one in imported if one in modules(root)}
        found[here] |= there - {here}
    return found


def reached(root, name):
    """All modules that one imports, and those that these do."""
    seen, waiting = set(), [name]
    while waiting:
        one = waiting.pop()
        if one not in seen:
            seen.add(one)
            waiting += modules(root).get(one, ())
    return seen


def circle(graph):
    """Rooms that import each other in a ring, as far as there are any."""
    left = dict(graph)
    while ends := [room for room, others in left.items() if not others & left.keys()]:
        for room in ends:
            del left[room]
    # What only leads to a circle is none of it.
    while begins := [room for room in left if not any(room in others for others in left.values())]:
        for room in begins:
            del left[room]
    return set(left)


@pytest.mark.parametrize(("root", "depth"), [(CORE, 2), (SERVER, 1)])
def test_rooms_make_no_circle(root, depth):
    assert circle(rooms(root, depth)) == set()
    assert circle({"a": {"b"}, "b": {"c"}, "c": {"b"}}) == {"b", "c"}


def test_the_core_knows_no_interface():
    for name, imported in modules(CORE).items():
        outside = {one.split(".")[0] for one in imported}
        assert not outside & {"django", "ninja", *(path.name for path in SERVER.iterdir())}, name


@pytest.mark.parametrize("name", [one for one in modules(CORE) if one.startswith("leannotch_core.proof")])
def test_the_proof_reaches_no_writer_and_its_eyes_nothing_of_the_kernel(name):
    found = reached(CORE, name)
    assert not {one for one in found if one.startswith("leannotch_core.handover")}
    if name.removeprefix("leannotch_core.proof.").startswith(EYES):
        assert not {one for one in found if one in {f"leannotch_core.geometry.{part}" for part in KERNEL}}
