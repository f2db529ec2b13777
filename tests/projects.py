"""Small projects for tests. Sizes are invented."""

from pathlib import Path

from leannotch_core.document.stock import Stock
from leannotch_core.project.project import Project, read_project

ROOT = Path(__file__).resolve().parents[1]


def demo() -> Project:
    return read_project((ROOT / "demo" / "sorting_tray.json").read_bytes())


def stock(stock_id="ply", readings=("3.07",), kerf="0.16", glue="0.1", **more) -> Stock:
    return Stock.model_validate(
        {
            "id": stock_id,
            "name": f"Test {stock_id}",
            "material": "plywood",
            "nominal": "3",
            "readings": list(readings),
            "sheets": [{"width": "600", "height": "400"}],
            "smallest_web": "1",
            "kerf": {"how": "typed", "width": kerf} if isinstance(kerf, str) else kerf,
            "clearances": {"loose": "0.3", "sliding": "0.2", "glue": glue, "press": "-0.05"},
            **more,
        }
    )


def part(part_id, width, height, stock_id="ply", **more):
    shape = {"kind": "rectangle", "width": str(width), "height": str(height), "corners": more.pop("corners", [])}
    return {"id": part_id, "name": part_id.capitalize(), "stock": stock_id, "shape": shape} | more


def text(words, x, y, does="score", cut_id="text", turn="0", **hole):
    """A text that is marked on a part."""
    hole = {"kind": "text", "font": "single line", "height": "4", "text": words, **hole}
    return {"id": cut_id, "hole": hole, "x": x, "y": y, "turn": turn, "does": does}


def project(parts, joints=(), stocks=None, **more) -> Project:
    return Project.model_validate(
        {"name": "Test", "stocks": stocks or [stock()], "parts": list(parts), "joints": list(joints), **more}
    )


def finger(a, side_a, b, side_b, width="15", **more):
    ends = {"a": {"part": a, "side": side_a}, "b": {"part": b, "side": side_b}}
    return {"kind": "finger", "id": more.pop("id", "corner"), "finger": width, **ends, **more}


def cross_lap(a, at_a, b, at_b, **more):
    ends = {"a": {"part": a, "side": "top", "at": str(at_a)}, "b": {"part": b, "side": "bottom", "at": str(at_b)}}
    return {"kind": "cross-lap", "id": "lap", **ends, **more}


def tab(part_id, side, on, x, y, **more):
    line = {"part": on, "x": str(x), "y": str(y), **more.pop("line", {})}
    ends = {"a": {"part": part_id, "side": side}, "b": line}
    return {"kind": "tab-and-slot", "id": "tabs", "width": "12", **ends, **more}


def nuts(part_id, side, on, x, y, **more):
    line = {"part": on, "x": str(x), "y": str(y), **more.pop("line", {})}
    return {"kind": "captive-nut", "id": "nuts", "a": {"part": part_id, "side": side}, "b": line, **more}


def splice(a, side_a, b, side_b, **more):
    ends = {"a": {"part": a, "side": side_a}, "b": {"part": b, "side": side_b}}
    return {"kind": "splice", "id": "splice", **ends, **more}
