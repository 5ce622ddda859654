"""A recorded current becomes the line that says it. The records are made here by hand, second by second."""

import numpy as np
import pytest

from pocketspark.core.logs.load_profile import NoLoadInLog, load_profile
from pocketspark.core.logs.log import log_of
from pocketspark.core.models.load_line import read_load


def recorded(amps, step_s=0.1):
    time_s = np.arange(len(amps)) * step_s
    return log_of(time_s, np.full(len(amps), 3.0), np.asarray(amps, dtype=float))


def noisy(amps, seed=1):
    return np.asarray(amps) * (1 + 0.01 * np.random.default_rng(seed).standard_normal(len(amps)))


def test_two_seconds_a_minute():
    time_s = np.arange(0, 600, 0.1)
    amps = np.where((time_s + 30) % 60 < 2, 0.018, 60e-6)
    profile = load_profile(recorded(noisy(amps)))
    (one,) = read_load(str(profile.line)).drawn
    assert one.current_a == pytest.approx(0.018, rel=0.02)
    assert (one.on_s, one.every_s) == (pytest.approx(2, abs=0.11), pytest.approx(60, abs=0.2))
    assert read_load(str(profile.line)).asleep_a == pytest.approx(60e-6, rel=0.03)
    assert profile.average_a == pytest.approx(658e-6, rel=0.02)
    assert 0.005 < profile.off < 0.06


def test_uses_that_keep_no_beat_are_counted_and_a_start_is_a_peak():
    amps = np.full(36_000, 20e-6)
    for begins in (1_000, 3_700, 9_000, 21_000, 24_500, 33_000):
        amps[begins : begins + 50] = 0.12
        amps[begins : begins + 3] = 0.9
    profile = load_profile(recorded(amps))
    (one,) = read_load(str(profile.line)).drawn
    assert one.peak_a == pytest.approx(0.9, rel=0.05)
    assert one.on_s == pytest.approx(5, rel=0.05)
    # Six in the hour, 6400 tenths of a second apart on average; the charge is the log's own.
    line_as = one.current_a * one.on_s / one.every_s + 20e-6
    assert line_as == pytest.approx(profile.average_a, rel=0.1)


def test_a_steady_current_is_one():
    (one,) = read_load(str(load_profile(recorded(noisy(np.full(500, 0.031)))).line)).drawn
    assert (one.current_a, one.on_s, one.on_day_h) == (pytest.approx(0.031, rel=0.01), None, 24)


@pytest.mark.parametrize("amps", [np.zeros(100), np.where(np.arange(600) > 300, 0.02, 1e-5)])
def test_what_tells_no_use_says_what_to_record(amps):
    with pytest.raises(NoLoadInLog, match="Record"):
        load_profile(recorded(amps))


def test_the_give_or_take_covers_95_of_100():
    """Uses of any length, seldom enough that chance counts, and a meter that is off by what it may be (2 sigma)."""
    covered = 0
    for seed in range(60):
        chance = np.random.default_rng(seed)
        amps = np.full(9_000, 50e-6)
        for begins in range(100, 8_500, 600):
            amps[begins : begins + int(chance.integers(15, 46))] = chance.normal(0.02, 0.002)
        # 14 uses of 3 s and 20 mA on average, 50 uA for the rest of the 900 s
        true_a = (14 * 3 * 0.02 + (900 - 14 * 3) * 50e-6) / 900
        profile = load_profile(recorded(amps * (1 + chance.normal(0, 0.015))), meter_share=0.03)
        covered += abs(profile.average_a / true_a - 1) <= profile.off
    print(f"{covered} of 60 covered")
    assert covered >= 55  # of 57 expected
