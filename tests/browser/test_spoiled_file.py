"""A maker spoils a file by hand and is told where, and what mends it."""

import re

from playwright.sync_api import expect

from .test_first_path import download


def test_a_file_that_was_spoiled_by_hand_is_told_at_its_place(maker, page, tmp_path):
    maker.open("hand-over")
    own = download(page, "Save sheet 1 as SVG").read_text()
    # A line of the name of the floor is taken out, and a handle hole is moved by half a millimetre.
    lines = own.split("\n")
    score, cut = (
        next(at for at, line in enumerate(lines) if line.startswith(f'<g id="{name}"')) for name in ("score", "cut")
    )
    lines[cut + 1] = re.sub(r"([MLA].*?)([\d.]+) ([\d.]+)(?=[LAZ])", _half_a_mm_up, lines[cut + 1])
    del lines[score + 1]
    spoiled = tmp_path / "tray by hand.svg"
    spoiled.write_text("\n".join(lines))

    maker.station("Prove")
    expect(page.get_by_text("All 8 parts come free as meant.")).to_be_visible()
    page.get_by_role("button", name="A file from elsewhere").click()
    page.locator("input[type=file][accept*='.nc']").set_input_files(spoiled)
    expect(page.get_by_text("tray by hand.svg, held against sheet 1.")).to_be_visible()
    faults = (
        page.get_by_role("region", name="Proof").get_by_role("listitem").filter(has_text=re.compile(r"Sheet 1, \d"))
    )
    lost = faults.filter(has_text="of a line on the layer score are not where they were meant")
    expect(lost).to_contain_text("Put it back where it was, or write the file again.")
    # Each has its number on the drawing, where it is.
    drawing = page.get_by_label("Proof cut of sheet 1")
    expect(drawing.locator(".fault")).to_have_count(faults.count())
    lost.get_by_role("button").click()
    expect(drawing.locator(".fault.chosen text")).to_have_text("1")
    expect(lost.get_by_role("link", name="Hand over")).to_be_visible()

    # Our own file is right as ever, and nothing of the other is kept.
    page.get_by_role("button", name="Back to our own file").click()
    expect(page.get_by_text("All 8 parts come free as meant.")).to_be_visible()
    expect(drawing.locator(".fault")).to_have_count(0)
    page.locator("input[type=file][accept*='.nc']").set_input_files(
        files=[{"name": "notes.svg", "mimeType": "image/svg+xml", "buffer": b"nothing"}]
    )
    expect(page.get_by_text("1 fault: the files would cut wrong.")).to_be_visible()
    expect(faults).to_contain_text("Write the file again; it is not as it was written")


def _half_a_mm_up(match):
    return f"{match[1]}{match[2]} {float(match[3]) + 0.5:.4f}"
