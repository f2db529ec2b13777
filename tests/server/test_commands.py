"""``notch cut`` from the shell, and every command of the core on a real project."""

import pytest
from django.core.management import CommandError, call_command
from leannotch_core.commands import CannotApply, Command, apply
from leannotch_core.document import Project as Document
from leannotch_core.document import write_project
from leannotch_core.formats.dxf import read_dxf
from leannotch_core.formats.svg import read_svg
from leannotch_core.proof.sweep import prove
from pydantic import TypeAdapter

from ..projects import demo, part, project

COMMANDS: TypeAdapter[Command] = TypeAdapter(Command)


def sizes(drawing, kerf):
    return sorted((round(p.width, 2), round(p.height, 2)) for p in prove(drawing, kerf).pieces if p.kind == "part")


def test_a_sheet_is_cut_from_the_shell_in_either_format(tray, tmp_path, capsys):
    svg, dxf = tmp_path / "tray.svg", tmp_path / "tray.dxf"
    call_command("cut", "sorting-tray", "--out", str(svg))
    call_command("cut", "sorting-tray", "--out", str(dxf))
    assert sizes(read_svg(svg.read_bytes()), 0.16) == sizes(read_dxf(dxf.read_bytes()), 0.16)
    assert (240, 180) in sizes(read_svg(svg.read_bytes()), 0.16)
    assert "5 parts, kerf 0.16 mm in the file" in capsys.readouterr().out
    # Left to the machine, the lines are the parts themselves: swept with no width they are of true size.
    call_command("cut", "sorting-tray", "--out", str(dxf), "--at-machine")
    assert (240, 180) in sizes(read_dxf(dxf.read_bytes()), 1e-6)


def test_a_saved_file_is_laid_out_and_cut_without_being_opened(db, tmp_path):
    saved, out = tmp_path / "plate.notch.json", tmp_path / "plate.svg"
    saved.write_bytes(write_project(project([part("plate", 40, 30, count=3)])))
    call_command("cut", str(saved), "--out", str(out))
    assert [sorted(size) for size in sizes(read_svg(out.read_bytes()), 0.16)] == [[30, 40]] * 3


@pytest.mark.parametrize(
    ("arguments", "says"),
    [
        (["sorting-tray", "--out", "tray.pdf"], "ends in neither .svg nor .dxf"),
        (["sorting-tray", "--out", "tray.svg", "--sheet", "9"], "there is no sheet 9; the layout has 2"),
        (["no-such", "--out", "tray.svg"], "is neither a project .*sorting-tray.* nor a file"),
    ],
)
def test_what_cannot_be_cut_is_said_and_nothing_is_written(tray, tmp_path, monkeypatch, arguments, says):
    monkeypatch.chdir(tmp_path)
    with pytest.raises(CommandError, match=says):
        call_command("cut", *arguments)
    assert list(tmp_path.iterdir()) == []


# Commands of the core


def double(size, before):
    return float(size.text) == 2 * float(before.text)


SETTINGS = [
    ({"do": "set unit", "unit": "in"}, "Shown in in", lambda d: d.unit == "in"),
    ({"do": "set fit", "fit": "press"}, "Fit: press", lambda d: d.fit == "press"),
    (
        {"do": "remove name", "name": "tray_length"},
        "tray_length removed",
        lambda d: "tray_length" not in [n.name for n in d.names],
    ),
    (
        {"do": "set spacing", "margin": {"text": "8"}, "gap": {"text": "3"}},
        "Margin 8, gap 3",
        lambda d: (d.layout.margin.text, d.layout.gap.text) == ("8", "3"),
    ),
    (
        {"do": "set hand-over", "hand_over": {"kerf": "at the machine", "dxf": "R12"}},
        "Hand-over changed",
        lambda d: (d.hand_over.kerf, d.hand_over.dxf) == ("at the machine", "R12"),
    ),
    ({"do": "remove joint", "id": "lap_first"}, "Joint removed", lambda d: "lap_first" not in {j.id for j in d.joints}),
    (
        {"do": "mirror part", "id": "floor"},
        "Floor mirrored",
        lambda d: d.part("floor").face != demo().part("floor").face,
    ),
    (
        {"do": "scale part", "id": "end_wall", "factor": 2},
        "End wall scaled by 2",
        lambda d: double(d.part("end_wall").cutouts[0].hole.width, demo().part("end_wall").cutouts[0].hole.width),
    ),
    ({"do": "remove part", "id": "floor"}, "Floor removed", lambda d: d.part("floor") is None),
]


@pytest.mark.parametrize(("typed", "label", "holds"), SETTINGS)
def test_a_command_does_what_its_label_says_to_a_copy(typed, label, holds):
    before = demo()
    command = COMMANDS.validate_python(typed)
    after = apply(before, command)
    assert command.label(before) == label and holds(after)
    assert before == demo() and Document.model_validate(after.model_dump()) == after


@pytest.mark.parametrize(
    ("typed", "says"),
    [
        ({"do": "mirror part", "id": "gone"}, "“gone” is not in the project any more"),
        ({"do": "copy settings", "id": "gone"}, "“gone” is not in the project any more"),
        ({"do": "record coupon", "stock": "gone", "date": "2026-11-24"}, "“gone” is not in the project any more"),
        (
            {
                "do": "reshape curve",
                "id": "floor",
                "knots": [{"x": 0, "y": 0}, {"x": 10, "y": 0}, {"x": 20, "y": 0}],
            },
            "all its points lie on one line",
        ),
        (
            {
                "do": "place exactly",
                "part": "floor",
                "copy_number": 1,
                "sheet": 0,
                "x": {"text": "left"},
                "y": {"text": "0"},
                "turn": {"text": "0"},
            },
            "“left” uses the name “left”, which is not known",
        ),
    ],
)
def test_a_command_that_does_not_fit_says_why(typed, says):
    with pytest.raises(CannotApply, match=says):
        apply(demo(), COMMANDS.validate_python(typed))


def test_a_project_takes_no_more_than_it_can_hold():
    full = project([part(f"p{i}", 10, 10) for i in range(1000)])
    command = COMMANDS.validate_python({"do": "put part", "part": part("one_more", 10, 10)})
    with pytest.raises(CannotApply, match="parts come to 1001, at most 1000 are taken"):
        apply(full, command)
