"""Sound files of every kind that is taken, and ways to spoil their bytes."""

import io
import random
import zipfile
from collections.abc import Callable

import trimesh
from PIL import Image

from ..projects import ROOT

Way = Callable[[bytes, random.Random], bytes]


def sound(served):
    """A file of each kind by its name: drawings, programs and files as the server writes them, the rest made here."""
    tray = "/api/projects/sorting-tray"
    found = {f"sheet.{kind}": served.get_bytes(f"{tray}/sheets/1.{kind}") for kind in ("svg", "dxf", "pdf")}
    found["sheet.nc"] = served.get_bytes("/api/projects/boot-rack/sheets/1.nc")
    found["tray.json"] = served.get_bytes(f"{tray}/file")
    number = {"name": "tray_length", "title": "Length"}
    own = served.post(f"{tray}/own-starter", {"name": "Tray", "numbers": [number]})
    found["own.starter"] = served.get_bytes(f"/api/own-starters/{own['id']}/file")
    machine = served.get(tray)["document"]["machines"][0]["id"]
    found["club.machine"] = served.get_bytes(f"{tray}/machines/{machine}/file")
    found |= {path.name: path.read_bytes() for path in sorted((ROOT / "demo" / "brought").iterdir())}
    found |= {f"plate.{kind}": _bytes(_plate().export(file_type=kind)) for kind in MESHES}
    found |= {f"bed.{kind}": _picture(kind) for kind in PICTURES}
    return found | {"sheets.zip": _packed(found)}


MESHES, PICTURES = ("stl", "obj", "ply", "glb", "3mf"), ("png", "jpeg")


def _bytes(data):
    return data if isinstance(data, bytes) else data.encode()


def _packed(found):
    packed = io.BytesIO()
    with zipfile.ZipFile(packed, "w", zipfile.ZIP_DEFLATED) as bundle:
        for name in ("sheet.svg", "sheet.dxf"):
            bundle.writestr(name, found[name])
    return packed.getvalue()


def _plate():
    return trimesh.creation.box((60, 40, 3))


def _picture(kind):
    data = io.BytesIO()
    Image.effect_mandelbrot((320, 240), (-2, -1, 1, 1), 20).convert("RGB").save(data, kind)
    return data.getvalue()


def _place(data, chosen):
    return chosen.randrange(len(data)) if data else 0


def cut_off(data, chosen):
    return data[: _place(data, chosen)]


def turned(data, chosen):
    """A few bits are another."""
    made = bytearray(data)
    for _ in range(chosen.choice((1, 3, 30)) if made else 0):
        made[_place(made, chosen)] ^= 1 << chosen.randrange(8)
    return bytes(made)


def without_a_stretch(data, chosen):
    at = _place(data, chosen)
    return data[:at] + data[at + chosen.randrange(1, 400) :]


def again_and_again(data, chosen):
    at = _place(data, chosen)
    stretch = data[at : at + chosen.randrange(1, 200)]
    return data[:at] + stretch * chosen.choice((2, 50, 4000)) + data[at:]


#: What nobody means where a number stands.
NUMBERS = (b"1e999", b"-1e308", b"nan", b"inf", b"-0", b"9" * 400, b"1e-320", b"9223372036854775808", b"0x7f", b"")


def other_number(data, chosen):
    """A few digits are replaced by a number that nobody means."""
    for _ in range(chosen.choice((1, 4))):
        digits = [at for at, byte in enumerate(data) if 48 <= byte <= 57]
        if digits:
            at = chosen.choice(digits)
            data = data[:at] + chosen.choice(NUMBERS) + data[at + 1 :]
    return data


def noise(data, chosen):
    at = _place(data, chosen)
    return data[:at] + chosen.randbytes(chosen.choice((1, 40, 4000))) + data[at:]


def deep(data, chosen):
    """Brackets within brackets where one stands."""
    at = _place(data, chosen)
    return data[:at] + chosen.choice((b"[", b"{", b"(", b"<g>", b'{"a":')) * 40_000 + data[at:]


def another_coding(data, chosen):
    return chosen.choice((b"\xff\xfe", b"\xef\xbb\xbf", b"\xfe\xff")) + chosen.choice((data, data[::-1]))


WAYS: tuple[Way, ...] = (
    cut_off, turned, without_a_stretch, again_and_again, other_number, noise, deep, another_coding,
)  # fmt: skip
