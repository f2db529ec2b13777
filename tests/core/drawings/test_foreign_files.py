"""Foreign files, a few dozen a run; `python -m tests.foreign 2500` for many, with the table of docs/promises.md."""

import pytest

from ...foreign.__main__ import SHARES, files, judge, main
from ...foreign.verdict import Foreign


def test_foreign_files_are_right_or_told_and_none_is_silently_wrong():
    counted, worse = judge(files(70, seed=1))
    assert worse == [] and counted.total() >= 70
    right = sum(number for (_, verdict), number in counted.items() if verdict == "right")
    assert right >= 0.95 * counted.total()


def test_the_command_prints_its_table(capsys):
    assert main(["12", "--seed", "5"]) == 0
    assert len(capsys.readouterr().out.splitlines()) > len(SHARES)


@pytest.mark.parametrize(
    ("body", "wrong", "verdict"),
    [
        ('<circle r="5"/>', [], "right"),
        ('<circle r="5"/>', ["half of it"], "silently wrong"),
        ('<circle r="5"/><text>words</text>', ["half of it"], "told"),
        ("<circle", [], "refused"),
    ],
)
def test_a_verdict_is_what_it_says(body, wrong, verdict):
    head = '<svg xmlns="http://www.w3.org/2000/svg" width="9mm" height="9mm" viewBox="0 0 9 9">'
    file = Foreign("kind", "a.svg", f"{head}{body}</svg>".encode(), lambda *_: iter(wrong))
    counted, worse = judge([file])
    assert counted == {("kind", verdict): 1} and len(worse) == (verdict == "silently wrong")
