"""Projects to measure with."""

from __future__ import annotations

from typing import Any

from leannotch_core.project.project import Project, read_project


def grid(parts: int, joints: int) -> Any:
    """``parts`` crossing boards with ``joints`` cross-laps among them."""

    from workshop.demo import FOLDER

    document = read_project((FOLDER / "sorting_tray.json").read_bytes()).model_dump()
    half = parts // 2
    boards = [
        {
            "id": f"board_{i}",
            "name": f"Board {i}",
            "stock": "birch",
            "shape": {"kind": "rectangle", "width": "200", "height": "30"},
        }
        for i in range(parts)
    ]
    laps = [
        {
            "kind": "cross-lap",
            "id": f"lap_{i}",
            "a": {"part": f"board_{i % half}", "side": "top", "at": str(10 + 12 * (i // half))},
            "b": {"part": f"board_{half + (i + i // half) % half}", "side": "bottom", "at": str(10 + 12 * (i // half))},
        }
        for i in range(joints)
    ]
    return Project.model_validate({**document, "parts": boards, "joints": laps})
