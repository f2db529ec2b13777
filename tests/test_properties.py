from .properties import IN_THE_SUITE, main, tried


def test_more_sizes_and_other_ones_are_tried_on_request(capfd):
    assert IN_THE_SUITE and tried(40) == 40
    assert main("2", "core/geometry/test_oval.py") == 0
    assert "passed" in capfd.readouterr().out
