"""What is stored can be read: every value is bounded, every command's answer is read back, older files come along."""

import json

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from leannotch_core.document.limits import MOST_COPIES, MOST_LINES
from leannotch_core.document.starter import NamedSize, Starter
from leannotch_core.edits.command import Command, apply
from leannotch_core.edits.joint import PutJoint
from leannotch_core.edits.layout import SetLayout
from leannotch_core.edits.names import PutName
from leannotch_core.edits.part import MirrorPart, PutPart, ScalePart
from leannotch_core.edits.starter import LetGo, PutStarter
from leannotch_core.evaluate import evaluate
from leannotch_core.facts.stock import facts
from leannotch_core.layout.nest import nest
from leannotch_core.parts.part import Part
from leannotch_core.project.project import NotAProject, Project, read_back, read_project, write_project
from leannotch_core.said import Said
from pydantic import TypeAdapter

from ...projects import cross_lap, demo, finger, part, project, stock, tab, text
from ...properties import tried


def tray(number=1, **sizes):
    typed = {name: {"text": text} for name, text in sizes.items()}
    given = {"id": f"tray_{number}", "kind": "tray", "stock": "ply", "second_stock": "ply", "sizes": typed}
    return PutStarter(do="put starter", starter=Starter.model_validate(given))


def unbounded(schema, where):  # noqa: PLR0911 - a line for each kind of value
    """Places in a JSON schema that take a number, a text or a list without end."""
    if "$ref" in schema or "const" in schema or "enum" in schema:
        return []
    for several in ("anyOf", "oneOf"):
        if several in schema:
            return [place for option in schema[several] for place in unbounded(option, where)]
    kind = schema.get("type")
    if kind in ("number", "integer"):
        ends = [{"minimum", "exclusiveMinimum"} & set(schema), {"maximum", "exclusiveMaximum"} & set(schema)]
        return [] if all(ends) else [where]
    if kind == "string":
        return [] if {"maxLength", "pattern"} & set(schema) else [where]
    if kind == "array":
        return ([] if "maxItems" in schema else [where]) + unbounded(schema["items"], where)
    if kind == "object" and "properties" not in schema:
        return ([] if "maxProperties" in schema else [where]) + unbounded(schema["additionalProperties"], where)
    found = []
    for name, field in schema.get("properties", {}).items():
        found += unbounded(field, f"{where}.{name}")
    return found


def test_every_number_text_and_list_of_a_document_has_an_end():
    schema = Project.model_json_schema()
    models = {"Project": schema} | schema["$defs"]
    assert len(models) > 30
    assert [place for name, model in models.items() for place in unbounded(model, name)] == []
    # The walk itself can find one.
    assert unbounded({"type": "array", "items": {"type": "number", "minimum": 0}}, "here") == ["here", "here"]


@pytest.mark.parametrize("value", ["1e999", "NaN", "-Infinity", "1e30", "null", '"wide"'])
def test_a_file_with_a_size_that_is_none_is_refused_by_its_place(value):
    document = demo()
    [first] = [n.layout for n in nest(document, evaluate(document), 0)]
    laid = json.loads(write_project(document.model_copy(update={"layout": first})))
    laid["layout"]["laid"][0]["width"] = "@"
    with pytest.raises(NotAProject, match=r"damaged: layout › laid › 0 › width (is|cannot)"):
        read_project(json.dumps(laid).replace('"@"', value).encode())


def test_no_command_gives_what_could_not_be_read_again():
    document = project([])
    for number in range(1, 21):
        document = apply(document, tray(number))
    with pytest.raises(Said, match="starters come to 21, at most 20 are taken"):
        apply(document, tray(21))
    copied = SetLayout.model_construct(do="set layout", layout=document.layout.model_copy(update={"laid": [None]}))
    with pytest.raises(Said, match="layout › laid › 0"):
        apply(document, copied)


def test_what_would_be_too_much_is_refused_with_its_number():
    plate = part("plate", 900, 900)
    holes = [
        {
            "id": f"cut_{number}",
            "hole": {"kind": "round", "diameter": "2"},
            "x": "5",
            "y": "5",
            "repeat": {"kind": "grid", "columns": 60, "rows": 60},
        }
        for number in range(9)
    ]
    full = PutPart(do="put part", part=Part.model_validate(plate | {"cutouts": holes}))
    with pytest.raises(Said, match=f"32400 cut-outs, .* 64800 lines .* at most {MOST_LINES}"):
        apply(project([plate]), full)
    letters = {"kind": "text", "text": "SHORELINE SURVEY", "height": "4"}
    text = [holes[0] | {"hole": letters}]
    with pytest.raises(Said, match=r"3600 cut-outs, .* 4320000 lines"):
        apply(project([plate]), PutPart(do="put part", part=Part.model_validate(plate | {"cutouts": text})))
    many = [part(f"p{number}", 10, 10, count=500) for number in range(11)]
    with pytest.raises(Said, match=f"5500 copies; a project has at most {MOST_COPIES}"):
        apply(project(many[:10]), PutPart(do="put part", part=Part.model_validate(many[10])))


def test_more_fingers_than_can_be_cut_are_a_warning_with_its_mend():
    document = project(
        [part("a", 90000, 60), part("b", 90000, 60)], [finger("a", "bottom", "b", "bottom", width="0.5")]
    )
    [found] = [f for f in evaluate(document).findings if "more than the 301" in f.text]
    assert found.mends[0].label == "Use three fingers"


def test_names_and_texts_lose_what_no_file_can_hold():
    document = Project.model_validate({"name": "Kit\x00 of\tthe\ufffe club\x1b", "stocks": [stock()]})
    assert document.name == "Kit of the club"
    with pytest.raises(ValueError, match="at least 1 character"):
        Project(name="\x00\x01")


# Starters own by a field


def test_a_makers_own_sizes_and_joints_stay_when_a_starter_of_like_name_changes():
    document = apply(project([part("a", 90, 60), part("b", 90, 60)]), tray())
    document = apply(document, PutName(do="put name", name=NamedSize(name="tray_1_gap", size="4")))
    own = finger("a", "left", "b", "left", id="tray_1_mine")
    document = apply(document, PutJoint.model_validate({"do": "put joint", "joint": own}))
    lift = {"id": "lift_strap", "hole": {"kind": "round", "diameter": "6"}, "x": "9", "y": "9"}
    floor = next(p for p in document.parts if p.id == "tray_1_floor")
    mine = Part.model_validate(floor.model_dump() | {"cutouts": [*floor.model_dump()["cutouts"], lift]})
    document = apply(document, PutPart(do="put part", part=mine))
    after = apply(document, tray(length="300", columns="2"))
    assert "tray_1_gap" in {name.name for name in after.names}
    assert "tray_1_mine" in {joint.id for joint in after.joints}
    floor = next(p for p in after.parts if p.id == "tray_1_floor")
    assert "lift_strap" in {cut.id for cut in floor.cutouts}


def test_a_starter_takes_no_name_that_the_maker_has_given():
    document = project([part("tray_1_floor", 90, 60)])
    with pytest.raises(Said, match="would make a part “tray_1_floor”, and there is one of yours"):
        apply(document, tray())


def test_what_is_let_go_of_belongs_to_nobody():
    after = apply(apply(project([]), tray()), LetGo(do="let go", id="tray_1"))
    things = [*after.names, *after.parts, *after.joints, *(cut for p in after.parts for cut in p.cutouts)]
    assert len(things) > 10 and all(not thing.starter for thing in things)


def test_a_document_of_version_1_is_carried_forward_with_what_its_starters_own():
    made = apply(project([part("own", 90, 60)]), tray(lift="8"))
    raw = json.loads(write_project(made))
    raw["version"] = 1
    for thing in [*raw["names"], *raw["joints"], *(cut for p in raw["parts"] for cut in p["cutouts"])]:
        del thing["starter"]
    raw["names"].append({"name": "gap", "size": {"text": "4"}})
    carried = read_project(json.dumps(raw).encode())
    assert carried.version == 6
    assert [name for name in carried.names if not name.starter] == [NamedSize(name="gap", size="4")]
    assert carried.joints == made.joints and carried.parts == made.parts
    # It goes on living: a changed number replaces what the starter made, and no more.
    assert len(apply(carried, tray(length="300", lift="8")).joints) == len(made.joints)
    for wrong in (
        {"version": [1]},
        {"version": {"a": 1}},
        {"version": 0},
        {"version": None},
        {"parts": 3},
        {"names": {}},
    ):
        with pytest.raises(NotAProject, match="damaged"):
            read_project(json.dumps(raw | wrong).encode())


def test_a_document_of_version_2_has_its_machines_as_things_of_their_own():
    raw = json.loads(write_project(project([part("own", 90, 60)])))
    del raw["machines"], raw["machine"]
    raw["version"] = 2
    result = {"kerf": 0.2, "loose": 0.3, "sliding": 0.2, "glue": 0.1, "press": 0.0}
    [ply] = raw["stocks"]
    del ply["on"]
    elsewhere = {**ply, "id": "card", "name": "Card", "machine": ""}
    ply |= {
        "machine": "Club laser",
        "history": [
            {"date": "2026-11-01", "machine": "Another", **result},
            {"date": "2026-11-02", "machine": "Club laser", **result},
        ],
    }
    raw["stocks"].append(elsewhere)
    carried = read_project(json.dumps(raw).encode())
    [machine] = carried.machines
    assert (machine.name, carried.machine, carried.version) == ("Club laser", machine.id, 6)
    [on] = carried.stocks[0].on
    # What was cut on another machine is not known of this one, and is not lost either.
    assert [coupon.date for coupon in on.history] == ["2026-11-02"] and len(carried.stocks[0].history) == 2
    assert facts(carried.stocks[0], machine.id) == facts(carried.stocks[0]) and not carried.stocks[1].on
    assert evaluate(carried).stocks["ply"].kerf == pytest.approx(0.16)


# Turned over again and again


MARKED = part(
    "plate",
    90,
    60,
    cutouts=[
        text("N", "12", "9", turn="30"),
        {"id": "cut", "hole": {"kind": "round", "diameter": "6"}, "origin": "middle", "x": "a + 2", "y": "3"},
        {
            "id": "beside",
            "hole": {"kind": "rectangle", "width": "4", "height": "2"},
            "point": "left",
            "origin": "right",
            "x_of": "cut",
            "y_of": "cut",
            "x": "5",
            "y": "0",
            "repeat": {"kind": "round a point", "count": 3, "step": "20", "x": "1"},
            "twin": "up and down",
        },
        {
            "id": "edged",
            "hole": {"kind": "obround", "width": "4", "height": "2"},
            "x": "5",
            "y": "5",
            "repeat": {"kind": "along the edge", "count": 2, "step": "8"},
        },
    ],
)


@pytest.mark.parametrize(
    "joint",
    [
        tab("wall", "left", "plate", 10, 20, line={"turn": "30", "lines": 2, "step": "12", "at_x": ["9"]}),
        cross_lap("plate", 30, "wall", 30) | {"a": {"part": "plate", "side": "top", "at": "30", "also_at": ["50"]}},
        finger("plate", "bottom", "wall", "left", shift="5", inset_start="2"),
    ],
)
def test_a_part_turned_over_twice_is_as_it_was_typed_however_often(joint):
    names = [{"name": "a", "size": "4"}]
    document = project([MARKED, part("wall", 60, 40)], [joint], names=names)
    once = apply(document, MirrorPart(do="mirror part", id="plate"))
    turned = document
    for _ in range(24):
        turned = apply(turned, MirrorPart(do="mirror part", id="plate"))
    assert once.parts != document.parts
    assert turned.parts == document.parts and turned.joints == document.joints


def test_a_size_too_long_to_turn_over_is_a_refusal():
    long = " + ".join(["1"] * 29) + " + 11"
    marked = part("plate", 90, 60, cutouts=[text("N", long, "9") | {"origin": "middle"}])
    with pytest.raises(Said, match="more than 120 characters"):
        apply(project([marked]), MirrorPart(do="mirror part", id="plate"))


@settings(max_examples=tried(30), deadline=None)
@given(st.lists(st.sampled_from(["mirror", 3, 0.2, 999, "tray", "go"]), max_size=12))
def test_whatever_is_done_in_a_row_can_be_read_again(steps):
    document = project([MARKED], names=[{"name": "a", "size": "4"}])
    for step in steps:
        command = {
            "mirror": MirrorPart(do="mirror part", id="plate"),
            "tray": tray(),
            "go": LetGo(do="let go", id="tray_1"),
        }.get(step) or ScalePart(do="scale part", id="plate", factor=step)
        try:
            document = apply(document, command)
        except Said as refusal:
            assert len(str(refusal)) < 400
        assert read_back(document) == document


# Names


NAMED = [
    {"name": "a", "size": "b + 2"},
    {"name": "b", "size": "4", "note": "of the gauge"},
    {"name": "long_b", "size": "2*b"},
]


def named_board(names):
    cut = {
        "id": "hole",
        "hole": {"kind": "round", "diameter": "b + max(b; long_b)"},
        "x": "ply.thickness + b",
        "y": "9",
    }
    return project([part("plate", 90, 60, cutouts=[cut])], names=names)


def test_names_rest_on_one_another_in_any_order_and_follow_when_one_is_called_otherwise():
    document = named_board(NAMED)
    before = evaluate(document)
    assert before.names["a"] == 6 and not before.errors
    command = TypeAdapter(Command).validate_python({"do": "rename name", "name": "b", "to": "gauge"})
    after = apply(document, command)
    assert [n.size.text for n in after.names] == ["gauge + 2", "4", "2*gauge"] and after.names[1].note == "of the gauge"
    cut = after.part("plate").cutouts[0]
    assert (cut.hole.diameter.text, cut.x.text) == ("gauge + max(gauge; long_b)", "ply.thickness + gauge")
    assert evaluate(after).parts["plate"].outline == before.parts["plate"].outline
    with pytest.raises(Said, match="“long_b” is the name of another size"):
        apply(document, command.model_copy(update={"to": "long_b"}))


def test_a_name_in_use_stays_with_its_uses_told_and_one_in_none_goes():
    document = named_board(NAMED)
    remove = TypeAdapter(Command).validate_python({"do": "remove name", "name": "b"})
    says = "“b” is used by the named size a; the named size long_b; Plate, round hole 1 diameter; Plate, round hole 1 x"
    with pytest.raises(Said, match=says):
        apply(document, remove)
    assert [n.name for n in apply(document, remove.model_copy(update={"name": "a"})).names] == ["b", "long_b"]
    move = TypeAdapter(Command).validate_python({"do": "move name", "name": "a", "place": 2})
    assert [n.name for n in apply(document, move).names] == ["b", "long_b", "a"]


def test_names_in_a_circle_are_told_with_all_of_them():
    circle = [{"name": "a", "size": "b"}, {"name": "b", "size": "2*c"}, {"name": "c", "size": "a + 1"}]
    [first, *_] = evaluate(project([], names=circle)).errors
    assert first.text == "c rests on itself: a on b on c on a; give one of them a number"
