"""DXF written: arcs are bulges, circles are circles, millimetres are stated."""

from __future__ import annotations

import io

from ezdxf import options, units  # type: ignore[attr-defined]
from ezdxf.document import Drawing
from ezdxf.filemanagement import new
from ezdxf.layouts.layout import Modelspace

from ..document.machine import Machine
from ..document.statement import statement
from ..geometry.loop import Loop, joined_bounds
from ..geometry.segment import Arc
from ..machining.path import CutPath
from ..machining.plan import SheetPlan, layers
from .told import layer_for, telling


def write_dxf(plan: SheetPlan, version: str = "R2010", machine: Machine | None = None) -> bytes:
    """The bytes of a sheet's DXF file: one layer for each operation, as a machine wants it, one entity an outline."""
    # Without this the file holds the time of writing, and the same input would not give the same bytes.
    options.write_fixed_meta_data_for_testing = True
    # R12 has no $INSUNITS; there the comment at the top of the file states the unit.
    document = new(version, units=units.MM if version != "R12" else 0)
    document.header["$MEASUREMENT"] = 1
    note = statement(plan.kerf, plan.compensated)
    if version != "R12":
        document.header.custom_vars.append("Kerf", note)
        document.header.custom_vars.append("Sheet", plan.name)
    sequence = machine.sequence if machine else ()
    for layer, paths in layers(plan, sequence).items():
        operation = paths[0].operation
        document.layers.add(layer_for(machine, operation, layer), color=telling(machine, operation)[0].aci)
    space = document.modelspace()
    # Entities come in the running order, but for a machine that goes by its own.
    in_order = [p for some in layers(plan, sequence).values() for p in some] if sequence else plan.paths
    for path in in_order:
        _add(space, path, layer_for(machine, path.operation, path.layer), version)
    for one in plan.words:
        attributes = {"layer": "notes", "height": one.height, "rotation": one.turn}
        space.add_text(one.words, dxfattribs=attributes).set_placement((one.at.real, one.at.imag))
    _tell_extents(document, plan)
    stream = io.StringIO()
    document.write(stream)
    # What a version before 2007 has no letter for is written as \U+XXXX (DXF reference, $DWGCODEPAGE).
    text = f"999\n{note}\n999\n{plan.name}\n{stream.getvalue()}"
    return text.encode(document.output_encoding, errors="dxfreplace")


def _tell_extents(document: Drawing, plan: SheetPlan) -> None:
    """The corners of all that is drawn; programs that open the file show just that."""
    boxes = [segment.bounds() for path in plan.paths for segment in path.segments]
    if boxes:
        left, bottom, right, top = joined_bounds(boxes)
        document.header["$EXTMIN"], document.header["$EXTMAX"] = (left, bottom, 0.0), (right, top, 0.0)
        document.modelspace().reset_extents((left, bottom, 0.0), (right, top, 0.0))


def _add(space: Modelspace, path: CutPath, layer: str, version: str) -> None:
    attributes = {"layer": layer}
    circle = Loop(path.segments).circle() if path.closed else None
    if circle:
        centre, radius = circle
        space.add_circle((centre.real, centre.imag), radius, dxfattribs=attributes)
        return
    points = [(s.start.real, s.start.imag, s.bulge if isinstance(s, Arc) else 0.0) for s in path.segments]
    if not path.closed:
        end = path.segments[-1].end
        points.append((end.real, end.imag, 0.0))
    if version == "R12":
        space.add_polyline2d(points, format="xyb", close=path.closed, dxfattribs=attributes)
    else:
        space.add_lwpolyline(points, format="xyb", close=path.closed, dxfattribs=attributes)
