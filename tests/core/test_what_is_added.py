"""The pages on adding things hold: the smallest of each kind is walked from its file to what comes out."""

import re
from typing import get_args

import pytest
from leannotch_core.document.machine import Machine
from leannotch_core.document.operations import OPERATIONS, ORDER, is_cut
from leannotch_core.document.sums import FUNCTIONS
from leannotch_core.drawings.formats import READERS as READ
from leannotch_core.drawings.formats import read_drawing
from leannotch_core.edits.command import Command
from leannotch_core.evaluate import evaluate
from leannotch_core.facts.codes import FindingCode
from leannotch_core.facts.findings import Kind
from leannotch_core.handover.formats import WRITERS as WRITTEN
from leannotch_core.joints.families import FAMILIES
from leannotch_core.joints.picked import Picked
from leannotch_core.layout.nest import nest
from leannotch_core.machining.prepared import prepare
from leannotch_core.parts.shapes.kinds import HOLES, OUTLINES
from leannotch_core.starters.live import KINDS

from ..projects import ROOT, part, project, text
from ..shipped import projects

PAGES = sorted((ROOT / "docs" / "adding").glob("*.md"))
WEB = ROOT / "web" / "src"


@pytest.mark.parametrize("page", PAGES, ids=[page.stem for page in PAGES])
def test_every_file_that_a_page_names_is_there(page):
    text = page.read_text()
    folder = ""
    for name in re.findall(r"`([\w./-]+/|[\w./-]+\.(?:py|ts|vue))`", text):
        if name.startswith(("core/", "web/", "tests/")):
            folder = name if name.endswith("/") else folder
            assert (ROOT / name).exists(), name
        else:
            assert list(ROOT.glob(f"core/leannotch_core/**/{name.rstrip('/')}")) or list(WEB.glob(f"**/{name}")), name


@pytest.mark.parametrize("kind", FAMILIES)
def test_a_family_begins_is_cut_and_has_its_fields_in_the_browser(kind):
    ends = Picked("a", "left", 100, 60, "mm"), Picked("b", "right", 200, 160, "mm")
    joint = FAMILIES[kind].begun("fresh", *ends, [])
    parts = [part("a", 100, 60), part("b", 200, 160)]
    result = evaluate(project(parts, [joint.model_dump()]))
    assert not result.errors and {meeting.joint for meeting in result.meetings} == {"fresh"}
    assert re.search(rf"^  '?{kind}'?: {{ name:", (WEB / "join/families/families.ts").read_text(), re.M)


@pytest.mark.parametrize("unit", ["mm", "in"])
def test_a_shape_begins_on_a_part_and_as_one(unit):
    for kind, hole in HOLES.items():
        cut = {"id": "fresh", "hole": hole.begun(unit).model_dump(), "origin": "middle", "x": "0", "y": "0"}
        result = evaluate(project([part("a", 160, 90, cutouts=[cut]), part("part_1", 30, 20)]))
        # A picture is only ever laid under a drawing.
        assert kind == "picture" or (not result.errors and result.parts["a"].outline.cutouts), kind
        assert re.search(rf"^  '?{kind}'?: {{ name:", (WEB / "shape/holes.ts").read_text(), re.M)
    plate = project([part("a", 100, 60)]).parts[0]
    for kind, outline in OUTLINES.items():
        if kind == "brought":
            continue
        shape = outline.filling(plate.shape.width, plate.shape.height)
        left, bottom, right, top = (
            evaluate(project([plate.model_copy(update={"shape": shape})])).parts["a"].outline.bounds
        )
        assert (right - left, top - bottom) == (pytest.approx(100, abs=0.01), pytest.approx(60, abs=0.01)), kind


def test_what_is_written_in_a_format_is_read_in_it_with_its_operations_apart():
    document = project([part("a", 60, 40, cutouts=[text("A", "30", "20")])])
    result = evaluate(document)
    laid = document.model_copy(update={"layout": next(iter(nest(document, result, 0))).layout})
    ready = prepare(laid, result, 0)
    assert set(WRITTEN) == set(READ)
    for ending, form in WRITTEN.items():
        data = form.write(ready, laid.hand_over)
        drawing = read_drawing(data, f"sheet.{ending}")
        assert read_drawing(data).says == drawing.says and drawing.unit_stated
        assert {line.layer for line in drawing.lines} == {"score", "cut"} <= set(ORDER)
    assert [operation.name for operation in OPERATIONS if is_cut(operation.name)] == ["cut"]


def test_the_browser_offers_what_sums_can_work_out():
    offered = re.findall(r"name: '(\w+)\('", (WEB / "kit/sizeNames.ts").read_text())
    assert offered == list(FUNCTIONS)


def test_every_command_has_its_own_word():
    words = [command.model_fields["do"].annotation for command in get_args(get_args(Command)[0])]
    assert len({get_args(word)[0] for word in words}) == len(words)


def test_every_field_of_a_machine_is_typed_in_the_browser():
    fields = "".join(path.read_text() for room in ("prepare", "measured") for path in (WEB / room).rglob("*.vue"))
    assert [name for name in Machine.model_fields if not re.search(rf"\b{name}\b", fields)] == []


def test_every_station_has_its_name_its_component_and_what_is_mended_there():
    stations = (WEB / "frame" / "stations.ts").read_text()
    keys = re.findall(r"\{ key: '([\w-]+)', name: '[A-Z]", stations)
    shown = (WEB / "pages" / "ProjectPage.vue").read_text()
    assert len(keys) > 5 and all(re.search(rf"^  '?{key}'?: \w+Station,", shown, re.M) for key in keys)
    assert {key for key in re.findall(r"return '([\w-]+)'", stations)} <= set(keys)


@pytest.mark.parametrize("kind", KINDS)
def test_a_starter_begins_as_it_is_asked_for(kind):
    known, _ = KINDS[kind]
    assert known.says and all(number.title and (number.begins or number.follows) for number in known.numbers)
    document = projects()[f"starter_{kind}"]
    assert not evaluate(document).errors and document.parts


def test_every_code_of_a_finding_is_told_somewhere():
    sources = [*(ROOT / "core").rglob("*.py"), *(ROOT / "server").rglob("*.py")]
    told = "".join(path.read_text() for path in sources if path.name != "codes.py")
    assert [code for code in get_args(FindingCode) if f'"{code}"' not in told] == []


def test_the_kinds_of_places_are_those_that_lead_somewhere():
    told = set(re.findall(r"case '([\w-]+)'", (WEB / "frame" / "stations.ts").read_text()))
    assert told <= set(get_args(Kind))
