"""Single-line letters: what is drawn of a text, and what is told where a letter has no strokes."""

import pytest
from leannotch_core.evaluate import evaluate
from leannotch_core.machining.lettered import scored_name
from leannotch_core.parts.lettering.single_line import drawn_as, missing, strokes, text_width
from leannotch_core.project.project import Project

from ...shipped import projects


@pytest.mark.parametrize(
    ("text", "drawn"),
    [("Żuraw", "ZURAW"), ("Łódź", "LODZ"), ("smørrebrød", "SMORREBROD"), ("Straße", "STRASSE"), ("½", "1⁄2")],
)
def test_letters_are_drawn_as_capitals_without_accents(text, drawn):
    assert drawn_as(text) == drawn
    assert text_width(text, 6) == text_width(drawn, 6)
    assert strokes(text, 6) == strokes(drawn, 6)


def test_what_has_no_strokes_is_told_and_a_name_with_it_is_not_scored():
    assert missing("Wand Д1") == "Д"
    document = projects()["sorting_tray"].model_dump()
    word = {"kind": "text", "font": "single line", "height": {"text": "9"}, "text": "Д1"}
    cut = {"id": "word", "does": "score", "hole": word, "x": {"text": "0"}, "y": {"text": "0"}}
    document["parts"][0]["cutouts"].append(cut)
    result = evaluate(Project.model_validate(document))
    (told,) = [finding for finding in result.findings if finding.code == "letter-missing"]
    assert "“Д”" in told.text
    outline = result.parts["floor"].outline
    assert scored_name("Wand 1", outline) and scored_name("Łódź", outline) and not scored_name("Wand Д1", outline)
