"""Every project that ships, and one of every starter, each laid out: what large runs of the tests work on."""

from __future__ import annotations

from collections.abc import Iterator
from functools import cache

from leannotch_core.document.starter import Starter
from leannotch_core.evaluate import evaluate
from leannotch_core.facts.cutters import NoCutter
from leannotch_core.facts.profiles.rack import SHIPPED
from leannotch_core.facts.profiles.shipped import shipped
from leannotch_core.layout.nest import nest
from leannotch_core.project.project import Project, read_project
from leannotch_core.starters.live import KINDS, put_starter

from tests.projects import ROOT, demo, stock

__all__ = ["NoCutter", "laid_out", "on_laser", "on_router", "projects"]

#: A metal that starters are bent from; invented.
METAL = stock("alu", readings=("1.52",), material="aluminium", nominal="1.5", smallest_web="1")


@cache
def projects() -> dict[str, Project]:
    """The projects by their names, as they ship."""
    found = {path.stem: read_project(path.read_bytes()) for path in sorted((ROOT / "demo").glob("*.json"))}
    return found | {f"starter_{kind}": of_starter(kind) for kind in KINDS}


def of_starter(kind: str) -> Project:
    known = KINDS[kind][0]
    wanted = METAL if known.material == "aluminium" else stock()
    base = demo().model_copy(
        update={"name": known.title, "stocks": [wanted], "parts": [], "joints": [], "names": [], "starters": []}
    )
    base = base.model_copy(update={"layout": base.layout.model_copy(update={"sheets": [], "placements": []})})
    made = Starter.model_validate({"id": "made", "kind": kind, "stock": wanted.id, "second_stock": wanted.id})
    return put_starter(base, made)


def laid_out(project: Project, **layout: object) -> Project:
    """The project with all of it laid out anew, the first layout that is found."""
    kept = project.layout.model_copy(update={"sheets": [], "placements": [], **layout})
    bare = project.model_copy(update={"layout": kept})
    first = next(iter(nest(bare, evaluate(bare), 0)))
    return bare.model_copy(update={"layout": first.layout})


def on_laser(project: Project) -> Project:
    """The project on the laser that ships, whatever machine it has."""
    return _on(project, "laser", {})


def on_router(project: Project, cutter: str = "3.175 upcut", **routing: object) -> Project:
    """The project on the router that ships, with a cutter of the rack."""
    rack = {one.name: one for one in SHIPPED}
    cutters = [rack[cutter], *(one for one in SHIPPED if one.name != cutter)]
    changed = project.model_copy(update={"cutters": cutters})
    return _on(changed, "router", {"cutter": rack[cutter].id, **routing})


def _on(project: Project, machine: str, routing: dict[str, object]) -> Project:
    preparation = project.preparation
    changed = preparation.routing.model_validate({**preparation.routing.model_dump(), **routing})
    if machine == "laser":
        changed = changed.model_copy(update={"cutter": ""})
    preparation = preparation.model_copy(update={"routing": changed})
    profile = shipped()[machine]
    return project.model_copy(update={"machines": [profile], "machine": profile.id, "preparation": preparation})


def sheets() -> Iterator[tuple[str, Project]]:
    yield from projects().items()
