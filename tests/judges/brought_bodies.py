"""Bodies made by trimesh, brought as meshes, and where their plates stand in space."""

import numpy as np
import trimesh
from leannotch_core.assembly.poses import assemble
from leannotch_core.assembly.solids import placed, solid
from leannotch_core.bring import brought_parts
from leannotch_core.drawings.way_in import Bringing, bring, read
from leannotch_core.evaluate import evaluate

from ..projects import project, stock


def stl(*meshes):
    return trimesh.util.concatenate(meshes).export(file_type="stl")


def assembled(document):
    """The bounds of every copy as a solid in space, each copy beside its part."""
    result = evaluate(document)
    poses = assemble(document, result).poses
    return {copy: np.array(placed(solid(result.parts[copy.part]), pose).bounding_box()) for copy, pose in poses.items()}


def apart(boxes):
    """Boxes about the middle of all of them on the ground, sorted."""
    rows = np.array(list(boxes))
    shift = [(rows[:, 0].min() + rows[:, 3].max()) / 2, (rows[:, 1].min() + rows[:, 4].max()) / 2, rows[:, 2].min()]
    return np.array(sorted((rows - [*shift, *shift]).round(3).tolist()))


def laid_flat(mesh_data, name="kit.stl"):
    """All plates of a mesh as parts, each of a stock as thick as it is."""
    parts = brought_parts(project([]), bring(read(mesh_data, name), Bringing()).parts, "six", file=name)
    thick = {part.id: f"{part.stands[0].thick:g}" for part in parts}
    stocks = [
        stock(f"sheet_{number}", readings=(reading,)) for number, reading in enumerate(sorted(set(thick.values())))
    ]
    of = {one.readings[0].text: one.id for one in stocks}
    return project([part.model_copy(update={"stock": of[thick[part.id]]}) for part in parts], stocks=stocks)
