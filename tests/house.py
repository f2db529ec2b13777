"""``python -m tests.house`` writes the rooms of the house into docs/house.md: by their floors, as imports have them."""

import ast
import re
from collections import defaultdict
from functools import cache

from .projects import ROOT

CORE, SERVER = ROOT / "core", ROOT / "server"


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


def floors(graph):
    """Rooms by their floors: each imports from below its own alone."""
    found, left = [], dict(graph)
    while left:
        level = sorted(room for room, others in left.items() if not others & left.keys())
        if not level:
            raise ValueError(f"{', '.join(circle(graph))} import each other in a ring.")
        found.append(level)
        left = {room: others for room, others in left.items() if room not in level}
    return found


def says(root, room):
    """The first sentence of a room's own docstring."""
    path = root.joinpath(*room.split("."))
    source = path / "__init__.py" if path.is_dir() else path.with_suffix(".py")
    said = ast.get_docstring(ast.parse(source.read_text())) or ""
    return said.split("\n\n")[0].replace("\n", " ")


def table(root, depth):
    """The floors of a house, the ground floor last, as it stands."""
    rows = ["| floor | room | what it is |", "| --- | --- | --- |"]
    graph = {room: others for room, others in rooms(root, depth).items() if room.count(".") == depth - 1}
    for number, level in reversed(list(enumerate(floors(graph)))):
        rows += [f"| {number} | `{room.split('.')[-1]}` | {says(root, room)} |" for room in level]
    return "\n".join(rows)


PAGE = ROOT / "docs" / "house.md"


def as_it_stands(page):
    """The page with its tables, the core's first, as the imports have them now."""
    tables = iter((table(CORE, 2), table(SERVER, 1)))
    return re.sub(r"^\| floor .*?(?=\n\n)", lambda _: next(tables), page, flags=re.M | re.S)


if __name__ == "__main__":
    PAGE.write_text(as_it_stands(PAGE.read_text()))
