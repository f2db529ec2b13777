"""Single-line lettering for score lines: our own strokes on a grid four wide and six high."""

from __future__ import annotations

from unicodedata import combining, normalize

from ...geometry.segment import Point

#: Strokes as runs of grid points "xy"; strokes are parted by spaces.
GLYPHS = {
    "A": "002640 1232", "B": "00063645341303 13334241301000", "C": "4536160501103041", "D": "000626454120000",
    "E": "40000646 0333", "F": "000646 0333", "G": "4536160501103041432323", "H": "0006 4046 0343",
    "I": "1030 2026 1636", "J": "0110304146", "K": "0006 4603 0340", "L": "060040", "M": "0006234640",
    "N": "00064046", "O": "103041453616050110", "P": "0006364534 34330303", "Q": "103041453616050110 2240",
    "R": "00063645341303 2340", "S": "45361605041333424130100 1", "T": "0646 2026", "U": "060110304146",
    "V": "062046", "W": "0610233046", "X": "0046 0640", "Y": "062346 2320", "Z": "06460040", "0": "103041453616050110",
    "1": "152620 1030", "2": "0516364543000040", "3": "051636453413 133342413010 1001", "4": "3036013141",
    "5": "46060333424130100101", "6": "453616050110304142331302", "7": "064610",
    "8": "13344536160504133342413010010213", "9": "01103041453616050413334 4", "-": "1333", "+": "1333 2224",
    ".": "2021", ",": "2110", "/": "0046", "(": "36141230", ")": "16343210", "&": "4004051626251302011030 42", 
    "'": "2625",    ":": "2122 2425", "_": "0040", " ": "",
}  # fmt: skip


#: Width of a letter and the step to the next, as shares of the cap height.
WIDTH, STEP = 4 / 6, 5.6 / 6


#: Letters with a stroke through them, which are no letter with an accent by their code.
_STRUCK = str.maketrans(
    {"Ł": "L", "Ø": "O", "Đ": "D", "Ħ": "H", "ẞ": "SS", "Æ": "AE", "Œ": "OE", "İ": "I", "Ð": "D", "Þ": "TH"}
)


def drawn_as(text: str) -> str:
    """A text as it is drawn: in capitals, without accents."""
    plain = normalize("NFKD", text.upper().translate(_STRUCK))
    return "".join(letter for letter in plain if not combining(letter))


def missing(text: str) -> str:
    """The letters of a text that there are no strokes for, each once, as they are typed."""
    return "".join(dict.fromkeys(letter for letter in text if set(drawn_as(letter)) - set(GLYPHS)))


def strokes(text: str, height: float) -> list[list[Point]]:
    """Open polylines (mm) of ``text``, capitals ``height`` mm high, centred on the origin.

    Letters are drawn as capitals without accents; what there are no strokes for is drawn as a box.
    """
    lines = []
    left = -text_width(text, height) / 2 - 1j * height / 2
    for place, letter in enumerate(drawn_as(text)):
        base = left + place * STEP * height
        for run in GLYPHS.get(letter, "0040460600").split():
            pairs = [run[i : i + 2] for i in range(0, len(run) - 1, 2)]
            lines.append([base + complex(int(pair[0]), int(pair[1])) * height / 6 for pair in pairs])
    return [line for line in lines if len(line) > 1]


def text_width(text: str, height: float) -> float:
    """Width (mm) that ``text`` takes."""
    return max(0.0, len(drawn_as(text)) * STEP - (STEP - WIDTH)) * height
