"""Words on paper, with letters of most alphabets that are written from left to right."""

import io

import pikepdf
import pytest
from fontTools.ttLib import TTFont
from leannotch_core.handover.letters import wide
from leannotch_core.handover.paper import WIDTH, Words, fitting, on_paper, wrapped
from pypdf import PdfReader

#: What is neither in ASCII nor in the western encoding of old.
NAMES = ("Łódź (przód)", "Bočnica č. 2", "Стенка 3 мм", "Πλάκα βάσης", "Đế gỗ", "⌀ 8 × 3 ≤ 12")


def printed(*words):
    return on_paper("Names", [[Words(20, 280 - 10 * at, 9, word) for at, word in enumerate(words)]])


def test_names_are_printed_in_their_own_letters_and_can_be_searched():
    data = printed(*NAMES)
    text = PdfReader(io.BytesIO(data)).pages[0].extract_text()
    assert [line.strip() for line in text.splitlines()] == list(NAMES)
    assert data == printed(*NAMES)
    # Only the letters that are used are in it.
    assert len(data) < 30_000


def test_each_letter_has_a_drawing_in_the_file_and_the_width_that_is_told():
    with pikepdf.open(io.BytesIO(printed(*NAMES))) as read:
        font = read.pages[0].Resources.Font.F1.DescendantFonts[0]
        face = TTFont(io.BytesIO(font.FontDescriptor.FontFile2.read_bytes()))
        told = list(font.W)
    widths = {int(told[at]): int(told[at + 1][0]) for at in range(0, len(told), 2)}
    letters = set("".join(NAMES))
    assert len(widths) == len(letters)
    for glyph, width in widths.items():
        name = face.getGlyphName(glyph)
        assert face["hmtx"][name][0] / face["head"].unitsPerEm == pytest.approx(width / 1000, abs=0.0006)
    drawn = [one for one in widths if face["glyf"][face.getGlyphName(one)].numberOfContours]
    assert len(drawn) == len(letters - {" "})


def test_a_letter_that_the_face_has_not_is_an_empty_box_and_hinders_nothing():
    text = PdfReader(io.BytesIO(printed("板 A"))).pages[0].extract_text()
    assert text.strip().endswith("A")


def test_words_are_cut_off_and_broken_where_the_room_ends():
    assert wide("Πλάκα", 18) == pytest.approx(2 * wide("Πλάκα", 9))
    long = "Стенка " * 40
    assert wide(fitting(long, 60, 9), 9) <= 60
    assert fitting("Стенка", 60, 9) == "Стенка"
    assert all(wide(line, 8.5) <= WIDTH - 30 for line in wrapped(long.strip()))
