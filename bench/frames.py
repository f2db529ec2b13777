"""Frames while something is dragged, counted in headless Chromium on the real application."""

from __future__ import annotations

import os
import socket
import subprocess
import sys
import tempfile
import time
import urllib.error
import urllib.request
from collections.abc import Callable, Iterator
from contextlib import contextmanager, suppress
from typing import Any

from leannotch_core.project.project import Project, read_project
from playwright.sync_api import Page, sync_playwright

from bench.figure import Figure, many

#: Counts frames from here on; what it answers is how many there were and how long they took (ms).
_COUNT = """() => {
  const begun = performance.now()
  const seen = { frames: 0 }
  window.counted = () => [seen.frames, performance.now() - begun]
  const frame = () => { seen.frames += 1; requestAnimationFrame(frame) }
  requestAnimationFrame(frame)
}"""


def frames() -> list[Figure]:
    """A frame (ms) while a part or a shape of many is dragged, beside one at rest."""
    with tempfile.TemporaryDirectory() as data, _served(data) as url, sync_playwright() as playwright:
        flags = ["--no-sandbox", "--disable-gpu"]
        browser = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=flags)
        page = browser.new_page(viewport={"width": 1280, "height": 800}, base_url=url)
        sheet, plate = (_opened(page, made) for made in (_laid_out(many(300)), _pierced(many(50))))
        laid = _dragging(page, f"/projects/{sheet}/lay-out", "Tag 1 on sheet 1", "a part, 300 laid out")
        shaped = _dragging(page, f"/projects/{plate}/shape", "round hole 2", "a shape on a part of 20,000 lines")
        browser.close()
    return [laid, shaped]


@contextmanager
def _served(data: str) -> Iterator[str]:
    """The address of the application, served from a data folder of its own."""
    with socket.socket() as free:
        free.bind(("127.0.0.1", 0))
        port = free.getsockname()[1]
    url = f"http://127.0.0.1:{port}"
    command = [sys.executable, "-m", "lean_notch", "start", "--port", str(port)]
    own = {"NOTCH_DATA": data, "DJANGO_SETTINGS_MODULE": "leannotch.settings", "PYTHONPATH": os.pathsep.join(sys.path)}
    with subprocess.Popen(command, env={**os.environ, **own}, stdout=subprocess.DEVNULL) as server:
        try:
            while server.poll() is None:
                with suppress(urllib.error.URLError, ConnectionError), urllib.request.urlopen(f"{url}/api/projects"):
                    break
                time.sleep(0.2)
            yield url
        finally:
            server.terminate()


def _opened(page: Page, made: Project) -> str:
    answer = page.request.post("/api/projects/open", data=made.model_dump(mode="json"))
    return str(answer.json()["slug"])


def _dragging(page: Page, path: str, name: str, what: str) -> Figure:
    page.goto(path)
    thing = page.get_by_role("button", name=name, exact=True).first
    thing.wait_for(timeout=60_000)
    box = thing.bounding_box() or {"x": 0, "y": 0, "width": 0, "height": 0}
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    at_rest = _frame(page, lambda _: page.wait_for_timeout(16))
    page.mouse.move(x, y)
    page.mouse.down()
    moved = _frame(page, lambda step: page.mouse.move(x + step % 40, y + step % 25))
    page.mouse.up()
    return Figure(f"a frame while dragging {what}, ms", moved, f"one at rest {at_rest:.1f} ms", at_rest)


def _frame(page: Page, act: Callable[[int], object]) -> float:
    """How long (ms) a frame takes while something is done so many times."""
    page.evaluate(_COUNT)
    for step in range(many(120, 20)):
        act(step)
    seen, taken = page.evaluate("window.counted()")
    return float(taken) / max(1, int(seen))


def _demo() -> dict[str, Any]:
    from workshop.demo import FOLDER

    return read_project((FOLDER / "sorting_tray.json").read_bytes()).model_dump() | {"joints": []}


def _laid_out(count: int) -> Project:
    """So many copies of a tag in rows on a large sheet."""
    tag = {"id": "tag", "name": "Tag", "stock": "birch", "count": count, "shape": _rectangle(60, 25)}
    places = [
        {"part": "tag", "copy_number": at + 1, "sheet": 0, "x": 10 + at % 30 * 64, "y": 10 + at // 30 * 30, "turn": 0}
        for at in range(count)
    ]
    layout = {"sheets": [{"stock": "birch", "width": 2440, "height": 1220}], "placements": places}
    return Project.model_validate(_demo() | {"name": "Many tags", "parts": [tag], "layout": layout})


def _pierced(side: int) -> Project:
    """A plate with a grid of rounded openings, eight lines each, and one hole to be dragged."""
    repeat = {"kind": "grid", "columns": side, "rows": side, "step_x": "10", "step_y": "8"}
    middle = {"point": "middle", "origin": "bottom left"}
    slot = {"kind": "rectangle", "width": "6", "height": "4", "radius": "1"}
    cuts = [
        {"id": "slots", "hole": slot, "x": "60", "y": "20", "repeat": repeat, **middle},
        {"id": "hole", "hole": {"kind": "round", "diameter": "30"}, "x": "25", "y": "60", **middle},
    ]
    plate = {"id": "plate", "name": "Plate", "stock": "birch", "shape": _rectangle(600, 440), "cutouts": cuts}
    return Project.model_validate(_demo() | {"name": "Pierced", "parts": [plate], "layout": {}})


def _rectangle(width: float, height: float) -> dict[str, str]:
    return {"kind": "rectangle", "width": f"{width:g}", "height": f"{height:g}"}
