"""Every entry of the bench is built and run once, as small as it goes: what nothing runs breaks."""

import math

import pytest

from bench.__main__ import ENTRIES, SMALL
from bench.figure import measure

from ..projects import demo


@pytest.fixture
def little():
    measure(SMALL)
    yield
    measure(1)


@pytest.mark.parametrize("entry", ENTRIES)
def test_every_entry_measures_something(entry, tray, little):
    found = entry(demo())
    for figure in found if isinstance(found, list) else [found]:
        assert figure.what and figure.against and figure.limit > 0
        # What is not found in so short a time has taken for ever.
        assert not math.isnan(figure.value) and figure.value > 0 and figure.ratio == figure.value / figure.limit
