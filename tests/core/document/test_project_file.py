"""The page on the project's file says what a file may hold: no bound and no beginning changes unseen."""

from ...project_file import PAGE, page


def test_the_page_on_the_project_file_shows_it_as_it_is():
    """``python -m tests.project_file`` writes it so."""
    assert page() == PAGE.read_text()
    assert "| `readings` | list of Size | at most 40 |  |" in page()
    assert "| `speed` | number | more than 0; to 5000 |" in page()
