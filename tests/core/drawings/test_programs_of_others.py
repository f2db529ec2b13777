"""Programs as shops write them: what is carried out comes to where it should, what is not is refused by its reason."""

import json
import math
from itertools import combinations

import pytest
from leannotch_core.document.machine import Machine
from leannotch_core.drawings.gcode import read_gcode
from leannotch_core.drawings.gcode.profile_lines import profile_lines
from leannotch_core.drawings.gcode.state import Home, ProgramTold
from leannotch_core.drawings.gcode.steps import steps
from leannotch_core.drawings.gcode.words import BadBlock, Dialect
from leannotch_core.facts.profiles.shipped import shipped
from leannotch_core.geometry.segment import Arc

from ...shell import of

machine, proof = of("machine"), of("proof")


def ends(text, **more):
    """Where each move ends, with its height; rapid ones without a feed."""
    here, found = 0j, []
    for step in steps(text, **more):
        here = step.segment.end if step.segment else here
        found.append((round(here.real, 4), round(here.imag, 4), round(step.z, 4), step.feed))
    return found


HEADER = "\ufeff%\nO1001 (BRACKET, 6 MM END MILL)\nN10 G17 G40 G49 G80 G90 G94 G21\nN20 G54 T1 M6\nN30 S16000 M3\n"


def test_the_header_of_a_shop_is_carried_out_and_what_it_takes_from_the_machine_is_told():
    told = ProgramTold()
    text = HEADER + "N40 G0 G43 H1 Z5\n/N50 G0 X1 Y2\nN60 G1 Z-1 F300\nM30\n%\n"
    assert ends(text, told=told) == [(0, 0, 5, None), (1, 2, 5, None), (1, 2, -1, 300)]
    assert told.ended and told.unit_stated
    assert [note[:28] for note in told.notes] == ["G43 at line 6 takes the cutt", "Lines that begin with “/” ar"]


@pytest.mark.parametrize(
    ("lines", "wanted"),
    [
        # NISTIR 6556, 3.5.18: where it stands is called 10, 10; and back again.
        ("G0 X5 Y5\nG92 X10 Y10\nG0 X12 Y10\nG92.1\nG0 X12 Y10", [(5, 5), (7, 5), (12, 10)]),
        # 3.5.13 and 3.5.8: one move in the machine's own coordinates, whose zero lies at -100, -50; home by a place.
        ("G0 X5\nG53 G0 X120 Y60\nG0 X1", [(5, 0), (20, 10), (1, 10)]),
        ("G0 X5 Y5\nG28 X9 Y9", [(5, 5), (9, 9), (-100, -50)]),
        ("G91\nG0 X5 Y5\nG28 Y0", [(5, 5), (5, -50)]),
        # Centres of arcs from where it stands, and by their place.
        ("F60\nG0 X10\nG2 X0 Y10 I-10 J0\nG90.1\nG2 X-10 Y0 I0 J0", [(10, 0), (0, 10), (-10, 0)]),
        # An arc goes on where its centre alone is said: a full turn.
        ("F60\nG0 X10\nG3 X10 Y0 I-5 J0\nI7 J0", [(10, 0), (10, 0), (10, 0)]),
        # One zero may be any of them.
        ("G55\nG0 X3\nG55\nG0 X4", [(3, 0), (4, 0)]),
    ],
)
def test_places_are_where_the_standard_has_them(lines, wanted):
    found = ends(f"G21 G90\n{lines}\nM2", home=Home(-100 - 50j, 60))
    assert [(x, y) for x, y, _, _ in found] == wanted


def test_an_arc_that_goes_on_runs_round_once_more():
    turns = [s.segment for s in steps("G21 G90 F60\nG0 X10\nG3 X10 Y0 I-5 J0\nI7 J0\nM2") if isinstance(s.segment, Arc)]
    assert [(arc.centre, round(arc.length, 6)) for arc in turns] == [
        (5, round(math.tau * 5, 6)), (17, round(math.tau * 7, 6)),
    ]  # fmt: skip


@pytest.mark.parametrize(
    ("cycle", "wanted"),
    [
        # NISTIR 6556, 3.5.16: over the hole, down to R, down at the feed, and up to R or to where it came from.
        ("G99 G81 X10 Y0 Z-3 R2", [(10, 5, 0), (10, 2, 0), (10, -3, 1), (10, 2, 0)]),
        ("G98 G81 X10 Y0 Z-3 R2", [(10, 5, 0), (10, 2, 0), (10, -3, 1), (10, 5, 0)]),
        ("G99 G82 X10 Y0 Z-3 R2 P0.5", [(10, 5, 0), (10, 2, 0), (10, -3, 1), (10, -3, 0), (10, 2, 0)]),
        ("G99 G83 X10 Y0 Z-3 R1 Q2",
         [(10, 5, 0), (10, 1, 0), (10, -1, 1), (10, 1, 0), (10, -0.746, 0), (10, -3, 1), (10, 1, 0)]),
        # The next place alone, and G80 ends it.
        ("G99 G81 X10 Y0 Z-3 R2\nX20\nG80\nG0 X0",
         [(10, 5, 0), (10, 2, 0), (10, -3, 1), (10, 2, 0), (20, 2, 0), (20, 2, 0), (20, -3, 1), (20, 2, 0), (0, 2, 0)]),
        # By steps, so many times.
        ("G91 G99 G81 X10 Z-5 R-3 L2",
         [(10, 5, 0), (10, 2, 0), (10, -3, 1), (10, 2, 0), (20, 2, 0), (20, 2, 0), (20, -3, 1), (20, 2, 0)]),
    ],
)  # fmt: skip
def test_canned_cycles_drill_as_the_standard_says(cycle, wanted):
    found = ends(f"G21 G90 F200 S9000 M3\nG0 Z5\n{cycle}\nM2")[1:]
    assert [(x, z, int(feed is not None)) for x, _, z, feed in found] == wanted


CALLS = "G21 G90\nG0 X0 Y0\nM98 P12 L3\nM98 P20012\nM30\nO12\nG91\nG0 X10\nG90\nM99\n%"


def test_programs_that_are_called_run_where_they_are_called():
    """Three times, and twice by the number that says both."""
    assert [x for x, _, _, _ in ends(CALLS)] == [0, 10, 20, 30, 40, 50]


# Common practice: millimetres with two decimals, inches with three.
@pytest.mark.parametrize(("unit", "places", "scale"), [("G21", 2, 1.0), ("G20", 3, 25.4), ("G21", 4, 1.0)])
def test_arcs_are_as_exact_as_their_numbers(unit, places, scale):
    worst = 0.0
    for turn in range(40):
        angles = (turn * 0.7, turn * 0.7 + 0.3 + turn % 5)
        centre, radius = 40.123456 + 30.654321j, 12.3456789
        at = [centre + radius * complex(math.cos(a), math.sin(a)) for a in angles]
        spoke = centre - at[0]
        values = (at[0].real, at[0].imag, at[1].real, at[1].imag, spoke.real, spoke.imag)
        x, y, x2, y2, i, j = (f"{value / scale:.{places}f}" for value in values)
        text = f"{unit} G90 F60\nG0 X{x} Y{y}\nG3 X{x2} Y{y2} I{i} J{j}\nM2"
        (arc,) = (s.segment for s in steps(text) if isinstance(s.segment, Arc))
        worst = max(worst, abs(abs(arc.start - arc.centre) - abs(arc.end - arc.centre)), abs(arc.centre - centre))
    # As far from both ends, and as near to where it was meant as its digits allow.
    assert worst < 4 * 10**-places * scale


@pytest.mark.parametrize(("radii", "off", "taken"), [(0.05, 0.049, True), (0.05, 0.051, False), (0.2, 0.19, True)])
def test_a_machine_says_itself_how_far_the_radii_of_an_arc_may_differ(radii, off, taken):
    machine = Machine(id="router", name="Router", kind="router", radii=radii)
    told = f"G21 G90 F100\nG2 X{10 + off:.4f} Y0 I5 J0\nM2\n"
    if taken:
        (arc,) = (step.segment for step in steps(told, dialect=Dialect.of(machine)) if step.segment)
        assert arc.length == pytest.approx(math.pi * 5, abs=2 * off)
    else:
        with pytest.raises(BadBlock, match="an arc begins"):
            list(steps(told, dialect=Dialect.of(machine)))


def test_an_arc_that_is_further_off_than_its_digits_is_refused():
    assert list(steps("G21 G90 F60\nG0 X0 Y0\nG2 X10 Y0 I5.01 J0\nM2"))
    for centre in ("5.0101", "5.05"):
        with pytest.raises(BadBlock, match="an arc begins 5"):
            list(steps(f"G21 G90 F60\nG0 X0 Y0\nG2 X10 Y0 I{centre} J0\nM2"))


@pytest.mark.parametrize(
    ("lines", "line", "says"),
    [
        ("G18", 2, "the word G18 is not carried out: arcs and cutters are carried out in the plane of x and y alone"),
        ("G10 L2 P1 X0", 2, "changes the machine's own tables"),
        ("G73 X1 Z-1 R1 Q1", 2, "only the cycles G81, G82 and G83"),
        ("#1=5", 2, "variables and sums of a program are not carried out"),
        ("G0 X[1+2]", 2, "variables and sums"),
        ("G54\nG0 X1\nG55", 4, "G55 counts from another zero than G54"),
        ("G81 X1 Z-1 F60", 2, "G81 does not say with R how deep it goes"),
        ("F60\nG81 X1 Z2 R1", 3, "G81 goes from 1 mm down to 2 mm"),
        ("M98 P7", 2, "M98 calls program 7, which is not in the file or has no M99"),
        ("M99", 2, "would begin again without end"),
        ("M98", 2, "does not say with P"),
        ("M98 P7\nM2\nO7\nM98 P7\nM99", 5, "program 7 calls itself"),
        ("G1 X1 E0.5 F60", 2, "the word E0.5 moves an axis"),
        ("G38.2 Z-5 F60", 2, "what a probe meets"),
    ],
)
def test_what_is_not_carried_out_is_refused_with_line_word_and_reason(lines, line, says, tmp_path, capsys):
    with pytest.raises(BadBlock) as fault:
        list(steps(f"G21 G90\n{lines}\nM98 P0\nM2" if "M98" in lines else f"G21 G90\n{lines}\nM2"))
    assert (fault.value.line, says in fault.value.text) == (line, True), fault.value.text
    # The machine stops there with an alarm, and shows what it did before.
    file = tmp_path / "of_others.nc"
    file.write_text(f"G21 G90\n{lines}\nM98 P0\nM2" if "M98" in lines else f"G21 G90\n{lines}\nM2")
    assert machine([str(file), "--profile", "router", "--json"]) == 0
    (alarm,) = json.loads(capsys.readouterr().out)["alarms"]
    assert (alarm["line"], says in alarm["text"]) == (line, True)


def test_calls_of_calls_are_bounded():
    calls = "".join(f"O{n}\n" + f"M98 P{n + 1} L99\n" * 5 + "M99\n" for n in range(1, 9))
    with pytest.raises(BadBlock, match="come to more than"):
        sum(1 for _ in steps(f"G21 G90\nM98 P1\nM2\n{calls}O9\nG4 P0\nM99\n"))


def test_a_beam_without_s_works_at_the_most_and_fans_switch_it():
    drawing = read_gcode(b"G21 G90\nM106\nG1 X10 F600\nM107\nG0 X20\nM3 S0\nG1 X30\nM5\nM2")
    assert [(line.segments[0].start, line.segments[-1].end) for line in drawing.lines] == [(0, 10)]
    assert "no S says how much: the most is taken" in drawing.notes[0]
    told = ProgramTold()
    assert [step.power for step in steps("G21 G90\nM3\nM2\n", told, Dialect.of(shipped()["router"]))] == []
    assert "a spindle stands still so" in told.notes[0]


def test_a_cutter_that_was_not_given_is_asked_for(tmp_path, capsys):
    file = tmp_path / "two.nc"
    cut = "G0 X{x} Y0\nG1 Z-2 F300\nG1 X{x} Y20\nG0 Z5\n"
    file.write_text(
        "G21 G90\nG0 Z5\nT3 M6\nS9000 M3\n" + cut.format(x=0) + "M5\nT8 M6\nS9000 M3\n" + cut.format(x=50) + "M2\n"
    )
    asked = [str(file), "--thickness", "12", "--json"]
    assert proof([*asked, "--cutter", "3=6", "--cutter", "T8=3.175"]) == 0
    assert json.loads(capsys.readouterr().out)["cutters"]["8"] == 3.175
    assert proof([*asked, "--cutter", "3=6"]) == 2
    assert "cutter T8 at line 13, and how wide that is was not said" in capsys.readouterr().err
    assert proof([*asked, "--cutter", "x=6"]) == 2
    assert "“x” is no number of a cutter; say it as 3=6.35" in capsys.readouterr().err


def test_what_the_lines_of_a_profile_do_is_told_before_it_is_taken():
    own = {"begins": ["M7", "G0 X10 Y5", "M3 S500", "G1 X40 F600", "M5", "$lights"], "ends": ["G0 X0 Y0", "G41"]}
    told = profile_lines(Machine(id="laser", name="Laser", **own))
    assert [(line.where, line.text, line.does, line.works) for line in told] == [
        ("begins", "M7", "sets M7", False),
        ("begins", "G0 X10 Y5", "moves to 10 mm, 5 mm", False),
        ("begins", "M3 S500", "sets M3", False),
        ("begins", "G1 X40 F600", "works its way to 40 mm, 5 mm", True),
        ("begins", "M5", "sets M5", False),
        ("begins", "$lights", "is known to the machine alone", False),
        ("ends", "G0 X0 Y0", "moves to 0 mm, 0 mm", False),
        ("ends", "G41", "is known to the machine alone", False),
    ]
    # What names places and cannot be read stops the machine, and is said.
    (line,) = profile_lines(Machine(id="laser", name="Laser", ends=["G1 X5 Y#1 F100"]))
    assert line.does.startswith("cannot be carried out: “G1 X5 Y#1 F100” of the machine's profile names places")


#: Modal groups as NISTIR 6556 has them in table 4 (from memory), of the codes that are carried out.
GROUPS = (
    ("G0", "G1 X1", "G2 X1 I1", "G3 X1 I1", "G80", "G81 Z-1 R1", "G82 Z-1 R1 P1", "G83 Z-1 R1 Q1"),
    ("G20", "G21"),
    ("G43", "G49"),
    ("G54", "G55", "G56", "G57", "G58", "G59", "G59.1", "G59.2", "G59.3"),
    ("G61", "G61.1", "G64"),
    ("G90", "G91"),
    ("G98", "G99"),
    ("M3", "M4", "M5"),
    ("M0", "M1", "M2", "M30"),
)


@pytest.mark.parametrize("group", GROUPS)
def test_two_codes_of_one_group_exclude_each_other_and_of_two_groups_do_not(group):
    for one, other in combinations([words.split()[0] for words in group], 2):
        with pytest.raises(BadBlock, match=f"{one} and {other} exclude each other|{other} and {one} exclude"):
            list(steps(f"G21 F100 S100\n{one} {other}\n"))
    for others in GROUPS:
        if others is not group:
            try:
                list(steps(f"F100 S100\n{group[0].split()[0]} {others[0].split()[0]}\n"))
            except BadBlock as why:
                assert "exclude" not in str(why)
