"""How wood takes on moisture and swells, by tables and a worked example of the Wood Handbook."""

import pytest
from leannotch_core.document.wood import Wood
from leannotch_core.facts.moisture import COEFFICIENTS, equilibrium, swelling, wood_facts
from scipy.optimize import brentq

# Wood Handbook, FPL-GTR-190 (2010), table 4-2, at 21.1 degrees (70 Fahrenheit) and at 4.4 (40); from memory.
MOISTURE = [
    (21.1, 20, 4.5), (21.1, 30, 6.2), (21.1, 50, 9.2), (21.1, 65, 12.0), (21.1, 80, 16.0), (21.1, 90, 20.5),
    (4.4, 50, 9.5), (4.4, 80, 16.5),
]  # fmt: skip


@pytest.mark.parametrize(("temperature", "humidity", "moisture"), MOISTURE)
def test_wood_takes_on_the_moisture_of_the_handbooks_table(temperature, humidity, moisture):
    assert equilibrium(humidity, temperature) == pytest.approx(moisture, abs=0.06)


# The same, table 4-3: shrinkage from green to dry, radially and along the rings (%); from memory.
SHRINKS = {
    "ash, white": (4.9, 7.8),
    "basswood": (6.6, 9.3),
    "beech": (5.5, 11.9),
    "birch, yellow": (7.3, 9.5),
    "cherry, black": (3.7, 7.1),
    "Douglas-fir": (4.8, 7.6),
    "fir, white": (3.3, 7.0),
    "maple, red": (4.0, 8.2),
    "maple, sugar": (4.8, 9.9),
    "pine, eastern white": (2.1, 6.1),
    "spruce, Sitka": (4.3, 7.5),
    "walnut, black": (5.5, 7.8),
    "yellow-poplar": (4.6, 8.2),
}


@pytest.mark.parametrize("species", SHRINKS)
def test_coefficients_follow_from_what_green_wood_shrinks_by(species):
    # Evenly from 30 % of moisture to none, as a share of the size at 10 %: (S / 30) / (1 - 20 S / 30).
    for coefficient, percent in zip(COEFFICIENTS[species], SHRINKS[species], strict=True):
        share = percent / 100
        assert coefficient == pytest.approx(share / 30 / (1 - 20 * share / 30), abs=6e-6)


def test_what_trade_mixes_has_only_its_coefficients():
    assert COEFFICIENTS.keys() - SHRINKS.keys() == {"oak, commercial red", "oak, commercial white"}
    assert COEFFICIENTS["oak, commercial red"] == (0.00158, 0.00369)
    assert COEFFICIENTS["oak, commercial white"] == (0.00180, 0.00365)


def test_a_board_swells_as_in_the_handbooks_worked_example():
    # Chapter 13: a flat-sawn board of white fir, 232 mm wide, from 8 to 11 % of moisture: 232 x 0.00245 x 3 = 1.705 mm;
    # from memory.
    dry, damp = (brentq(lambda h, m=m: equilibrium(h, 20) - m, 5, 90) for m in (8, 11))
    found = swelling(Wood(species="fir, white", cut_at=dry), damp)
    assert 232 * found.across == pytest.approx(1.705, abs=0.001)
    assert found.through == pytest.approx(3 * 0.00112, abs=1e-6)
    quarter = swelling(Wood(species="fir, white", cut_at=dry, sawn="quarter"), damp)
    assert (quarter.across, quarter.through) == pytest.approx((found.through, found.across))
    assert found.along(1j, 1j) == found.across and found.along(1, 1j) == 0
    assert found.along(complex(0.6, 0.8), 1j) == pytest.approx(0.64 * found.across)


def test_of_two_airs_the_drier_one_is_the_driest_and_coefficients_hold_between_6_and_14():
    told = wood_facts(Wood(species="beech", driest=70, dampest=40))
    assert told.driest.humidity == 40 and told.dampest.humidity == 70 and not told.beyond
    assert told.driest.across < 0 < told.dampest.across
    for moisture, beyond in ((6.05, False), (5.95, True), (13.95, False), (14.05, True)):
        air = brentq(lambda h, m=moisture: equilibrium(h, 20) - m, 5, 90)
        assert wood_facts(Wood(species="beech", driest=air, dampest=50)).beyond is beyond
