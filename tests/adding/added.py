"""A shape, a family of joints, a starter, a finding and an operation, each a file and its lines in the registries.

``FILES`` are new; ``LINES`` are pieces of files that are there, with what stands in their place. Nothing else is
touched: what more a new thing needs, the type checks tell.
"""

KITE = '''"""Kites."""

from __future__ import annotations

from typing import Literal, Self

from ...document.sizes import Size, positive, shown, typed_in
from ...document.sums import Unit
from ...geometry.loop import Outline, polygon
from ...geometry.segment import Source
from .shape import BaseHole, Pen


class Kite(BaseHole):
    """Four sides, two and two equal, about an upright axis; ``waist`` is how far up it is widest."""

    kind: Literal["kite"] = "kite"
    width: Size
    height: Size
    waist: Size

    @property
    def title(self) -> str:
        return "kite"

    @property
    def lines(self) -> int:
        return 4

    @classmethod
    def begun(cls, unit: Unit) -> Self:
        return cls(width=typed_in(unit, 20), height=typed_in(unit, 30), waist=typed_in(unit, 20))

    def outlines(self, pen: Pen) -> tuple[Outline, ...] | None:
        width, height = pen.read("width", self.width, positive), pen.read("height", self.height, positive)
        waist = pen.read("waist", self.waist, positive)
        if width is None or height is None or waist is None:
            return None
        if waist >= height:
            text = f"its waist of {shown(waist)} is not below its top at {shown(height)}"
            pen.error("kite-turned-out", text, "waist", pen.set("Put it in the middle", "waist", f"{height / 2:.4g}"))
            return None
        low, high = complex(0, -height / 2), complex(0, height / 2)
        side = complex(width / 2, waist - height / 2)
        corners = [low, side, high, complex(-side.real, side.imag)]
        names = ("lower right", "upper right", "upper left", "lower left")
        return (Outline(polygon(corners, [Source(pen.name, name) for name in names])),)
'''

LEANING_CUT = '''"""An edge that leans on a face and is glued there: nothing is cut."""

from __future__ import annotations

from dataclasses import dataclass

from ...geometry.segment import Point
from ..fit import CannotJoin, JointCut
from ..meeting import OnFace, edge_on_face
from ..partner import Partner


@dataclass(frozen=True, slots=True)
class LeaningSpec:
    """Where the edge stands on the face (mm); ``along`` is the unit direction of its line there."""

    joint: str
    side: str
    starts: tuple[Point, ...]
    along: complex


def lean(spec: LeaningSpec, edged: Partner, faced: Partner) -> JointCut:
    """How the two meet. Raises `CannotJoin`."""
    if edged.id == faced.id:
        raise CannotJoin(f"{edged.name} cannot lean on itself; pick two parts")
    ways = (-faced.outward, faced.outward)
    places = [OnFace(start, spec.along, 0.0, up, False) for start in spec.starts for up in ways]
    return JointCut((), (), tuple(edge_on_face(spec.joint, edged, spec.side, faced, on) for on in places))
'''

LEANING_TYPED = '''"""Edges that lean on a face, as they are typed."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from typing import Literal, Self

from ..ends import EdgeOf, FaceLine
from ..family import Family
from ..fit import JointCut
from ..given import Given
from ..joint import BaseJoint, line_of
from ..partner import Partner
from ..picked import Picked
from .cut import LeaningSpec, lean


class Leaning(Family):
    """An edge that leans on lines of another part's face."""

    kind: Literal["leaning"] = "leaning"
    a: EdgeOf
    b: FaceLine

    @property
    def openings(self) -> int:
        return self.b.all_lines

    @classmethod
    def begun(cls, joint_id: str, a: Picked, b: Picked, others: Iterable[BaseJoint]) -> Self:
        """Where another joint of that edge stands, or along the middle of the face."""
        return cls(id=joint_id, a=a.edge, b=line_of(others, a.edge, b.part) or b.line(a.along))

    def cut(self, given: Given, a: Partner | None, b: Partner | None, beside: Sequence[Family]) -> JointCut | None:
        if a is None or b is None or (line := given.line(self.b, b)) is None:
            return None
        starts, along = line
        return lean(LeaningSpec(self.id, self.a.side, starts, along), a, b)
'''

LEANING_FIELDS = """<script setup lang="ts">
import { useJoint } from '../edit'
import LineFields from './LineFields.vue'
import SideField from './SideField.vue'

const { joint, nowEnd, name } = useJoint('leaning')
</script>

<template>
  <template v-if="joint">
    <SideField :label="`Edge of ${name(joint.a.part)}`" :side="joint.a.side" :save="(side) => nowEnd('a', { side })" />
    <LineFields :line="joint.b" />
  </template>
</template>
"""

EASEL = '''"""An easel: a board, and a foot that leans on it."""

from __future__ import annotations

from .made import CannotMake, Making, Number, StarterKind

KIND = StarterKind(
    key="easel",
    title="Easel",
    says="A board that a foot holds up.",
    numbers=(Number("width", "Width", "120"), Number("height", "Height", "160")),
)


def make(making: Making) -> None:
    """The board, and its foot in the middle. Raises `CannotMake`."""
    if making.mm("width") < 10:
        raise CannotMake(f"A board {making.mm('width'):g} mm wide stands on no foot; make it 10 mm or more.")
    width, height = (making.name(name, making.text(name)) for name in ("width", "height"))
    making.part("board", "Board", (width, height))
    making.part("foot", "Foot", (f"{width}/3", f"{height}/2"))
'''

FROST = '    Operation("frost", "#3a7ca5", 140, OnScreen(0.8, "1 1"), "Frost", "frosted", (200, 10), marks=True),\n'

FILES = {
    "core/leannotch_core/parts/shapes/kite.py": KITE,
    "core/leannotch_core/joints/leaning/__init__.py": "",
    "core/leannotch_core/joints/leaning/cut.py": LEANING_CUT,
    "core/leannotch_core/joints/leaning/typed.py": LEANING_TYPED,
    "core/leannotch_core/starters/easel.py": EASEL,
    "web/src/join/families/LeaningFields.vue": LEANING_FIELDS,
}

#: By file: a piece of it, and what stands in its place.
LINES = {
    "core/leannotch_core/parts/shapes/simple.py": {
        "from .obround": "from .kite import Kite\nfrom .obround",
        "    | Annulus\n": "    | Annulus\n    | Kite\n",
    },
    "core/leannotch_core/facts/codes.py": {'    "leaves-bed",\n': '    "kite-turned-out",\n    "leaves-bed",\n'},
    "core/leannotch_core/joints/families.py": {
        "from .splice": "from .leaning.typed import Leaning\nfrom .splice",
        "| Housing,": "| Housing | Leaning,",
    },
    "core/leannotch_core/document/starter.py": {'["tray", "box",': '["tray", "box", "easel",'},
    "core/leannotch_core/starters/live.py": {
        "from . import bent, box,": "from . import bent, box, easel,",
        "(box.KIND, box.make),": "(box.KIND, box.make),\n        (easel.KIND, easel.make),",
    },
    "core/leannotch_core/document/operations.py": {
        '"score", "pocket", "drill", "cut"]': '"score", "frost", "pocket", "drill", "cut"]',
        '"score", "pocket", "rest",': '"score", "frost", "pocket", "rest",',
        '    Operation(\n        "pocket",': FROST + '    Operation(\n        "pocket",',
        '    "pocket": StageRow(': '    "frost": StageRow("frost", "frosting", "Frost"),\n    "pocket": StageRow(',
    },
    "core/leannotch_core/parts/cut_out.py": {
        '"score", "engrave", "reference"]': '"score", "frost", "engrave", "reference"]'
    },
    "core/leannotch_core/edits/operation.py": {'["cut", "score", "engrave",': '["cut", "score", "frost", "engrave",'},
    "web/src/prepare/RowSettings.vue": {
        "= ['score', 'engrave', 'fill', 'cut',": "= ['score', 'frost', 'engrave', 'fill', 'cut',"
    },
    "web/src/shape/CutOutFields.vue": {
        "score: 'is scored along its edge',": "score: 'is scored along its edge', frost: 'is frosted along its edge',",
    },
    "web/src/shape/holes.ts": {
        "  sector: {": "  kite: { name: 'Kite', sizes: { width: 'Width', height: 'Height', waist: 'Waist' } },\n"
        "  sector: {",
    },
    "web/src/join/families/families.ts": {
        "import LapFields": "import LeaningFields from './LeaningFields.vue'\nimport LapFields",
        "  housing: {": "  leaning: { name: 'Leaning', picks: ['side', 'part'], says: ['Pick the edge that leans.', "
        "'Pick the part that it leans on.'], fields: LeaningFields, isCut: () => false },\n  housing: {",
    },
}
