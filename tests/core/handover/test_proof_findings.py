"""What the proof found is told where it is mended, at its place on what is drawn there."""

import cmath

import pytest
from leannotch_core.document.sheet import Placement
from leannotch_core.evaluate import evaluate
from leannotch_core.handover.proof_findings import proof_findings
from leannotch_core.handover.proof_told import ProofFault, SheetProved, fault_told
from leannotch_core.proof.fault import MENDS, Fault

from ...projects import part, project


def told(*faults, lying=()):
    document = project([part("plate", 60, 40)], layout={"sheets": [{"stock": "ply", "width": 600, "height": 400}]})
    layout = document.layout.model_copy(update={"placements": list(lying)})
    document = document.model_copy(update={"layout": layout})
    sheet = SheetProved.model_construct(sheet=0, faults=[fault_told(fault) for fault in faults])
    return proof_findings(document, evaluate(document), [sheet])


@pytest.mark.parametrize("code", MENDS)
def test_every_kind_of_fault_has_a_place_and_its_mend(code):
    [finding] = told(Fault(code, "Something", 3 + 4j))
    assert finding.text == f"Sheet 1, proved: Something. {MENDS[code][1]}."
    kinds = {"Measure": "stock", "Lay out": "sheet", "Prepare": "preparation"}
    # Where no part lies, what would be mended on one is told of the file.
    assert finding.place.kind == kinds.get(MENDS[code][0], "file")
    assert finding.place.id == ("ply" if finding.place.kind == "stock" else "0")


@pytest.mark.parametrize(("turn", "mirrored"), [(0, False), (90, True), (30, False), (200, True)])
@pytest.mark.parametrize(("beside", "is_its"), [(0.9, True), (1.1, False)])
def test_what_is_mended_on_a_part_is_told_in_its_own_frame(turn, mirrored, beside, is_its):
    lying = Placement(part="plate", copy_number=1, sheet=0, x=200, y=150, turn=turn, mirrored=mirrored)
    own = complex(60 + beside, 10)
    z = (own.conjugate() if mirrored else own) * cmath.rect(1, cmath.pi * turn / 180) + complex(200, 150)
    [finding] = told(Fault("lost", "A hole", z), lying=[lying])
    assert (finding.place.kind == "part") is is_its
    if is_its:
        assert finding.place.part == "plate"
        assert complex(finding.place.x, finding.place.y) == pytest.approx(own, abs=1e-3)


@pytest.mark.parametrize(("many", "notes"), [(3, 3), (4, 1)])
def test_many_of_a_kind_are_one_finding_with_their_count(many, notes):
    found = told(*(Fault("doubled", f"Line {n}", complex(n, 0)) for n in range(many)), Fault("no-end", "No end"))
    assert len(found) == notes + 1
    assert ("Line 0, and 3 more like it. " in found[0].text) is (notes == 1)


def test_a_fault_keeps_what_files_hold_of_its_place():
    assert fault_told(Fault("lost", "A hole", 1.23456 + 2j)) == ProofFault(
        code="lost", text="A hole", mend=MENDS["lost"][1], station="Shape", x=1.2346, y=2.0
    )
