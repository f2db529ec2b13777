"""Starters in a document: made, changed later with the maker's own work kept, and let go."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from typing import TypeVar

from pydantic import ValidationError

from ..document.faults import first_fault
from ..document.model import Model
from ..document.sizes import Size, in_digits
from ..document.starter import Starter
from ..document.sums import SizeError
from ..evaluate import evaluate
from ..facts.stock import facts
from ..joints.families import Joint
from ..parts.part import Part
from ..parts.shapes.brought import Brought
from ..project.cutting import cutter_in_use
from ..project.project import Project
from . import bent, box, others, tray
from .made import CannotMake, Made, Making, StarterKind

M = TypeVar("M", bound=Model)

#: Every kind of starter, in the order to show them, with what makes it.
KINDS: dict[str, tuple[StarterKind, Callable[[Making], None]]] = {
    kind.key: (kind, make)
    for kind, make in (
        (tray.KIND, tray.make),
        (box.KIND, box.make),
        (others.BRACKET, others.make_bracket),
        (others.FIGURE, others.make_figure),
        (others.RACK, others.make_rack),
        (others.FRAME, others.make_frame),
        (bent.BRACKET, bent.make_bracket),
        (bent.REST, bent.make_rest),
        (bent.BOX, bent.make_box),
    )
}


def _cutter(project: Project, stock: str) -> float | None:
    """What (mm) a cutter takes in the kerf's place. Raises `NoCutter`."""
    cutter = cutter_in_use(project, stock)
    return cutter.diameter if cutter else None


def make(project: Project, starter: Starter) -> Made:
    """The parts, joints and named sizes of a starter with a project's stocks. Raises `Said`."""
    kind, maker = KINDS[starter.kind]
    known: dict[str, float] = {}
    sheets: dict[str, float] = {}
    for stock in project.stocks:
        try:
            found = facts(stock, project.machine, _cutter(project, stock.id))
        except SizeError as error:
            raise CannotMake(f"{stock.name}, {error}.") from error
        known |= {f"{stock.id}.thickness": found.thickness, f"{stock.id}.kerf": found.kerf}
        sheets[stock.id] = max(max(sheet.width, sheet.height) for sheet in found.sheets)
    for stock_id in (starter.stock, starter.second_stock):
        if project.stock(stock_id) is None:
            raise CannotMake(f"The stock “{stock_id}” is not in the project; choose another one.")
    values = evaluate(project.model_copy(update={"parts": [], "joints": []})).values
    known |= {
        n.name: values[f"names/{n.name}"]
        for n in project.names
        if f"names/{n.name}" in values and n.starter != starter.id
    }
    making = Making(starter, kind, known, sheets[starter.stock])
    try:
        maker(making)
    except ValidationError as error:
        raise CannotMake(f"These numbers make sizes that are too long to write: {first_fault(error)}.") from error
    return making.made


def put_starter(project: Project, starter: Starter) -> Project:
    """The project with a starter added or changed; what the maker added to its parts stays. Raises `Said`."""
    made = make(project, starter)
    _refuse_what_is_not_its_own(project, starter, made)
    kept = {part.id: part for part in project.parts if part.starter == starter.id}
    gone = set(kept) - {part.id for part in made.parts}
    fresh = [_with_own_work(part, kept.get(part.id)) for part in made.parts]
    parts = _in_place(project.parts, fresh, gone)
    joints = {joint.id: joint for joint in project.joints}
    made_ids = {joint.id for joint in made.joints}
    fitted = [_with_own_settings(joint, joints.get(joint.id)) for joint in made.joints]
    unlike = [
        joint
        for joint in project.joints
        if joint.id not in made_ids and joint.starter != starter.id and not gone & {joint.a.part, joint.b.part}
    ]
    names = [name for name in project.names if name.starter != starter.id] + made.names
    starters = [known for known in project.starters if known.id != starter.id] + [starter]
    update = {
        "names": names,
        "parts": parts,
        "joints": [*unlike, *fitted],
        "starters": starters,
        "layout": project.layout.without(gone),
    }
    return project.model_copy(update=update)


def with_silhouette(project: Project, part: Part, shape: Brought) -> Project:
    """The project with a starter's part drawn as an outline that was brought.

    The part stays as high as it is, and its width follows the drawing, by the number of the starter that is its width.
    """
    starter = next((known for known in project.starters if known.id == part.starter), None)
    known = evaluate(project).parts.get(part.id)
    if starter is None or known is None:
        return project.model_copy(update={"parts": _in_place(project.parts, [_as_brought(part, shape)], set())})
    if part.shape.kind not in ("curve", "brought"):
        title = KINDS[starter.kind][0].title
        raise CannotMake(f"{part.name} keeps the shape that its starter, {title}, gives it; let go of that first.")
    drawn = shape.drawn
    numbers = {f"{starter.id}_{number.name}": number.name for number in KINDS[starter.kind][0].numbers}
    driving = numbers.get(part.shape.width.text)
    wide = {driving: Size(text=in_digits(round(known.height * drawn.real / drawn.imag, 4)))} if driving else {}
    own = shape.model_copy(update={"width": part.shape.width, "height": part.shape.height})
    drawn_anew = project.model_copy(update={"parts": _in_place(project.parts, [_as_brought(part, own)], set())})
    return put_starter(drawn_anew, starter.model_copy(update={"sizes": {**starter.sizes, **wide}}))


def _as_brought(part: Part, shape: Brought) -> Part:
    return part.model_copy(update={"shape": shape})


def remove_starter(project: Project, starter_id: str) -> Project:
    """The project without a starter, its parts, their joints and its named sizes."""
    gone = {part.id for part in project.parts if part.starter == starter_id}
    update = {
        "names": [name for name in project.names if name.starter != starter_id],
        "parts": [part for part in project.parts if part.id not in gone],
        "joints": [joint for joint in project.joints if not gone & {joint.a.part, joint.b.part}],
        "starters": [starter for starter in project.starters if starter.id != starter_id],
        "layout": project.layout.without(gone),
    }
    return project.model_copy(update=update)


def let_go(project: Project, starter_id: str) -> Project:
    """The project with a starter's parts as plain ones."""

    def plain(things: Iterable[M]) -> list[M]:
        return [t.model_copy(update={"starter": ""}) if getattr(t, "starter", "") == starter_id else t for t in things]

    parts = [
        part.model_copy(update={"cutouts": plain(part.cutouts), "bends": plain(part.bends)})
        for part in plain(project.parts)
    ]
    update = {
        "names": plain(project.names),
        "parts": parts,
        "joints": plain(project.joints),
        "starters": [starter for starter in project.starters if starter.id != starter_id],
    }
    return project.model_copy(update=update)


def _refuse_what_is_not_its_own(project: Project, starter: Starter, made: Made) -> None:
    """Raises `CannotMake` where the maker has something of a name that the starter would take."""
    title = KINDS[starter.kind][0].title
    pairs: list[tuple[str, Iterable[tuple[str, str]], set[str]]] = [
        ("size", ((name.name, name.starter) for name in project.names), {name.name for name in made.names}),
        ("part", ((part.id, part.starter) for part in project.parts), {part.id for part in made.parts}),
        ("joint", ((joint.id, joint.starter) for joint in project.joints), {joint.id for joint in made.joints}),
    ]
    for what, known, wanted in pairs:
        taken = next((name for name, owner in known if name in wanted and owner != starter.id), None)
        if taken:
            raise CannotMake(f"{title} would make a {what} “{taken}”, and there is one of yours; rename or remove it.")


def _with_own_settings(made: Joint, known: Joint | None) -> Joint:
    """A joint made again: its fit and its reliefs are the maker's."""
    if known is None or known.kind != made.kind:
        return made
    kept = {name: getattr(known, name) for name in ("fit", "relief", "cutter") if hasattr(known, name)}
    return made.model_copy(update=kept)


def _with_own_work(made: Part, known: Part | None) -> Part:
    """A part made again: its name, its own cut-outs, texts and turns are the maker's."""
    if known is None:
        return made
    fresh = {cut.id for cut in made.cutouts}
    own = [cut for cut in known.cutouts if cut.id not in fresh and not cut.starter]
    bends = [bend for bend in known.bends if not bend.starter and bend.id not in {made.id for made in made.bends}]
    shape = made.shape
    if shape.kind == "rectangle" and known.shape.kind == "rectangle" and not shape.corners:
        shape = shape.model_copy(update={"corners": known.shape.corners})
    elif shape.kind == "curve" and known.shape.kind in ("curve", "brought"):
        # A silhouette is the maker's own; only its size follows the numbers.
        shape = known.shape.model_copy(update={"width": shape.width, "height": shape.height})
    kept = {field: getattr(known, field) for field in ("name", "turns", "both_faces", "group", "rim")}
    own_work = {"cutouts": [*made.cutouts, *own], "bends": [*made.bends, *bends]}
    return made.model_copy(update={**kept, **own_work, "shape": shape})


def _in_place(before: list[Part], fresh: list[Part], gone: set[str]) -> list[Part]:
    by_id = {part.id: part for part in fresh}
    kept = [by_id.pop(part.id, part) for part in before if part.id not in gone]
    return [*kept, *by_id.values()]
