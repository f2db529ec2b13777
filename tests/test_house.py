"""The walls of the house: imports run one way, the core knows no server, the proof's own eyes share nothing with what
they judge.
"""

import ast
import re
from collections import defaultdict
from itertools import pairwise

import pytest

from .house import CORE, PAGE, SERVER, as_it_stands, circle, floors, modules, reached, rooms
from .projects import ROOT

#: What makes the shapes that a proof judges, and what writes its files.
KERNEL = {"arrangement", "boolean", "chords", "meet", "offset", "pieces", "winding"}

#: What of the proof reads a file and sweeps it: the rest holds that against what was meant, and knows the project.
EYES = ("sweep", "chords", "hanging", "shared", "round_beam", "bends", "against", "depth.program", "depth.swept")


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


def test_the_page_on_the_house_shows_it_as_it_stands():
    """``python -m tests.house`` writes it so."""
    assert as_it_stands(PAGE.read_text()) == PAGE.read_text()
    assert floors({"a": {"b", "c"}, "b": {"c"}, "c": set()}) == [["c"], ["b"], ["a"]]


def test_all_that_is_refused_is_said_by_one_base():
    """So that whatever is refused anywhere comes to a maker as its sentence."""
    for path in [*CORE.rglob("*.py"), *SERVER.rglob("*.py")]:
        for node in ast.walk(ast.parse(path.read_text())):
            if isinstance(node, ast.ClassDef) and node.name != "Said":
                assert not {ast.unparse(base) for base in node.bases} & {"ValueError", "RuntimeError"}, node.name


def test_a_name_of_a_class_means_one_thing_in_the_whole_house():
    found = defaultdict(set)
    for path in [*CORE.rglob("*.py"), *SERVER.rglob("*.py")]:
        # Commands of Django are all called so; what begins with a line is a file's own.
        classes = [node for node in ast.parse(path.read_text()).body if isinstance(node, ast.ClassDef)]
        for name in {one.name for one in classes} - {"Command", "Migration"}:
            found[name].add(path.relative_to(ROOT).as_posix())
    assert {name: where for name, where in found.items() if len(where) > 1 and not name.startswith("_")} == {}


def documented_above():
    """Names of methods that say in some class what they are for: another class's own needs say it no second time."""
    return {
        function.name
        for path in CORE.rglob("*.py")
        for holder in ast.walk(ast.parse(path.read_text()))
        if isinstance(holder, ast.ClassDef)
        for function in holder.body
        if isinstance(function, ast.FunctionDef) and ast.get_docstring(function)
    }


def undocumented(body, said, within_a_class=False):
    """Public functions without a docstring; one line of a class says by its name what it is."""
    for node in body:
        if getattr(node, "name", "_").startswith("_"):
            continue
        if isinstance(node, ast.ClassDef):
            yield from undocumented(node.body, said, within_a_class=True)
        elif isinstance(node, ast.FunctionDef):
            plain = within_a_class and (node.name in said or len(node.body) == 1)
            if not plain and not ast.get_docstring(node):
                yield node.name


def test_every_public_function_of_the_core_says_what_it_is_for():
    said = documented_above()
    for path in CORE.rglob("*.py"):
        assert list(undocumented(ast.parse(path.read_text()).body, said)) == [], path
    bare = ast.parse("def told(): pass\nclass A:\n def a(self):\n  b()\n  c()")
    assert list(undocumented(bare.body, said)) == ["told", "a"]


def walks():
    page = PAGE.read_text().split("## Six walks")[1]
    return {walk.split("\n")[0]: re.findall(r"^\d+\. `(.+?)\.py`", walk, re.M) for walk in page.split("\n### ")[1:]}


@pytest.mark.parametrize("walk", walks())
def test_each_step_of_a_walk_through_the_house_knows_the_one_before_it(walk):
    steps = [f"leannotch_core.{path.replace('/', '.')}" for path in walks()[walk]]
    assert len(steps) > 3 and set(steps) <= modules(CORE).keys()
    for before, step in pairwise(steps):
        assert before in reached(CORE, step), (before, step)
