"""Years of a cell, against published fits of ageing tests and the orders of magnitude of the trade.

tests/reference/data/published_lives.json is made by tools/ageing_reference.py from the package that it names: six small
cells, 240 random lives of six years. The laws in physics/ageing.py were fitted to the median of five of them.
"""

import json
from pathlib import Path

import numpy as np
import pytest

from pocketspark.core.physics.ageing import AGEING, RESISTANCE_PER_LOSS, Stress, losses, resistance_growth
from pocketspark.core.physics.self_discharge import self_discharge_a

PUBLISHED = json.loads((Path(__file__).parent / "data" / "published_lives.json").read_text())
YEARS = PUBLISHED["years"]


def stress_of(life):
    """The same life month by month: charged in four hours, full for a while, then run down evenly."""
    month = np.arange(YEARS * 12)
    celsius = life["mean_c"] - life["swing_c"] * np.cos(2 * np.pi * (month + 0.5) / 12)
    hours = life["days"] * 24
    full = life["full_h"] / hours if life["depth"] else 1.0
    cycles = np.full(len(month), life["depth"] * 730 / hours)
    return Stress(celsius, life["high"], life["high"] - life["depth"], full, cycles, 0.25)


def of_cells(name):
    """(ours, published): share lost at the end of each year; lives x years, lives x cells x years."""
    places = [n for n, cell in enumerate(PUBLISHED["cells"]) if (cell == "lfp") == (name == "lfp")]
    ours = np.array([losses(AGEING[name], stress_of(life))[11::12] for life in PUBLISHED["lives"]])
    theirs = np.array([[1 - np.array(life["told"][n]["q"]) for n in places] for life in PUBLISHED["lives"]])
    return ours, theirs


def test_240_lives_lie_within_the_spread_of_the_small_cells_and_near_their_median():
    ours, theirs = of_cells("lithium")
    assert (len(ours), theirs.shape[1]) == (240, 5)
    assert ((theirs.min(axis=1) <= ours) & (ours <= theirs.max(axis=1))).all()
    off = np.abs(ours - np.median(theirs, axis=1))
    assert off.mean() < 0.01
    assert off.max() < 0.04


def test_the_band_covers_the_published_cells():
    for name, least in (("lithium", 0.9), ("lfp", 0.9)):
        ours, theirs = of_cells(name)
        wide = np.exp(1.645 * AGEING[name].spread)
        within = (ours[:, None] / wide <= theirs) & (theirs <= ours[:, None] * wide)
        assert within.mean() > least


def test_iron_phosphate_follows_its_own_cell():
    ours, theirs = of_cells("lfp")
    assert np.abs(ours - theirs[:, 0]).max() < 0.03


def test_resistance_grows_within_what_the_fits_that_tell_it_have():
    told = [cell for life in PUBLISHED["lives"] for cell in life["told"] if "r" in cell and cell["q"][-1] < 0.99]
    ratios = [(cell["r"][-1] - 1) / (1 - cell["q"][-1]) for cell in told]
    assert np.nanpercentile(ratios, 1) < RESISTANCE_PER_LOSS < np.nanpercentile(ratios, 99)
    assert resistance_growth(0.2) == pytest.approx(1.4)


def lived(law="lithium", months=12, celsius=25.0, high=0.5, low=0.5, full=1.0, cycles=0.0, rate=0.3):
    stress = Stress(np.full(months, celsius), high, low, full, np.full(months, cycles), rate)
    return float(losses(AGEING[law], stress)[-1])


def test_orders_of_magnitude_of_the_trade():
    # From memory: 3 to 4 % in the first year half full and 6 to 10 % full, of which the fits have a little less and
    # more; more at 40 C; 20 % after some 300 to 500 full cycles at 1C, hardly any of it when gentle and shallow.
    assert 0.03 < lived() < 0.06
    assert 0.05 < lived(high=1.0, low=1.0) < 0.10
    assert 1.3 < lived(celsius=40) / lived() < 2.5
    assert 0.12 < lived(months=13, high=1.0, low=0.0, full=0.05, cycles=400 / 13, rate=1.0) < 0.25
    assert lived(high=0.7, low=0.5, full=0.05, cycles=30 * 0.2, rate=0.3) < 0.075


@pytest.mark.parametrize("worse", [{"celsius": 35}, {"high": 0.9}, {"cycles": 30}, {"cycles": 30, "rate": 1.0}])
def test_nothing_that_wears_a_cell_does_it_good(worse):
    for base in ({}, {"months": 60}, {"celsius": 5}):
        assert lived(**base) < lived(**(base | worse))


def test_a_life_in_two_halves_is_the_life_in_one():
    # what was lost counts on: the second half of the years alone, begun with the loss of the first
    months = 60
    whole = Stress(np.full(months, 30.0), 0.9, 0.9, 1.0, np.zeros(months))
    half = Stress(np.full(months // 2, 30.0), 0.9, 0.9, 1.0, np.zeros(months // 2))
    first = losses(AGEING["lithium"], half)[-1]
    assert losses(AGEING["lithium"], half, first)[-1] == pytest.approx(losses(AGEING["lithium"], whole)[-1], rel=1e-9)


def test_self_discharge_doubles_at_35_and_halves_in_the_cold():
    # handbook of the trade, from memory: 2 to 3 % a month, twice at 35 C, half in the cold
    a_month = self_discharge_a(1.0) * 30.4 * 24
    assert 0.02 <= a_month <= 0.03
    assert self_discharge_a(1.0, 35) == pytest.approx(2 * self_discharge_a(1.0))
    assert self_discharge_a(1.0, 0) == pytest.approx(self_discharge_a(1.0) / 2)
    warmer = self_discharge_a(1.0, np.linspace(-30, 80, 111))
    assert (np.diff(warmer) >= 0).all()


# Resistance against that at 25 C of six parameter sets in PyBaMM 26.10, whole electrochemical model, after a minute at
# 0.5C with half of the charge: name, at 0 C, at -10 C.
IN_THE_COLD = (
    ("Chen2020", 1.52, 1.77),
    ("Ecker2015", 3.98, 6.60),
    ("Marquis2019", 2.43, 3.27),
    ("Mohtat2020", 3.01, 4.66),
    ("NCA_Kim2011", 1.77, 2.31),
    ("OKane2022", 1.75, 2.12),
)


# Capacity down to 3.0 V at 0.2C against that at 25 C, the same models: name, at 0 C, at -10 C.
HOLDS_IN_THE_COLD = (
    ("Chen2020", 0.991, 0.987),
    ("Ecker2015", 0.993, 0.982),
    ("Marquis2019", 0.994, 0.989),
    ("Mohtat2020", 0.984, 0.959),
    ("NCA_Kim2011", 0.996, 0.994),
    ("OKane2022", 0.977, 0.959),
)


def test_capacity_in_the_cold_is_told_on_the_safe_side_of_every_model():
    # data sheets have 80 to 90 % at 0 C and 60 to 80 % at -10 C, at this rate (from memory); the models lose less
    from pocketspark.core.chain.chosen_cell import COLD_C, COLD_CAPACITY

    for celsius, column, sheets in ((0.0, 1, (0.80, 0.90)), (-10.0, 2, (0.60, 0.80))):
        ours = np.interp(celsius, COLD_C, COLD_CAPACITY)
        assert ours < min(row[column] for row in HOLDS_IN_THE_COLD)
        assert sheets[0] <= ours <= sheets[1]


def test_resistance_in_the_cold_lies_among_the_electrochemical_models():
    from pocketspark.core.chain.chosen_cell import COLD_C, COLD_RESISTANCE

    for celsius, column in ((0.0, 1), (-10.0, 2)):
        models = sorted(row[column] for row in IN_THE_COLD)
        ours = np.interp(celsius, COLD_C, COLD_RESISTANCE)
        assert models[0] < ours < models[-1]
