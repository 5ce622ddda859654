"""Makes tests/reference/data/published_lives.json: years of cells by published ageing fits, for random lives.

Run it in an environment of its own, since the package wants an older numpy:

    python3 -m venv .ageing && .ageing/bin/pip install blast-lite==1.1.1
    .ageing/bin/python tools/ageing_reference.py

With `--time` it makes nothing, and prints the milliseconds that a life of five years takes: the median of its cells.
`./spark bench` does that beside our own figure.

It needs no line of ours. Its cells are found by listing: those of at most 5 Ah, told apart by their chemistry alone.
"""

import inspect
import json
import random
import sys
import time
import warnings
from concurrent.futures import ProcessPoolExecutor
from pathlib import Path
from typing import Any

import numpy as np
from blast import models

SMALL_AH, STEP_H, YEARS, DAYS_A_YEAR, LOOKS_DAYS = 5.0, 4, 6, 365, 6
INTO = Path(__file__).parents[1] / "tests" / "reference" / "data" / "published_lives.json"


def random_life(chance: random.Random) -> dict[str, Any]:
    """One life: temperatures, between which charges it swings, how often, and how long it stays full each time.

    Within what the cells were tested at: 0 to 45 C, charged and discharged gently.
    """
    kind = chance.choice(("stored", "plugged", "daily", "slow", "slow"))
    full = chance.choice((1.0, 1.0, 0.9))
    life = {"kind": kind, "mean_c": round(chance.uniform(10, 35), 1), "swing_c": round(chance.uniform(0, 10), 1)}
    if kind == "stored":
        return life | {"high": round(chance.uniform(0.3, 1.0), 2), "depth": 0.0, "days": 30, "full_h": 0}
    if kind == "plugged":
        return life | {"high": full, "depth": 0.0, "days": 30, "full_h": 0}
    depth = round(chance.uniform(0.1, 0.9), 2)
    days = 1 if kind == "daily" else chance.randint(2, 60)
    return life | {"high": full, "depth": depth, "days": days, "full_h": 4 * chance.randint(0, 3)}


def series(life: dict[str, Any]) -> dict[str, Any]:
    """A year of it, every four hours: charged in four, full for a while, then run down evenly."""
    hours = np.arange(0, DAYS_A_YEAR * 24 + 1, STEP_H, dtype=float)
    temperature = life["mean_c"] - life["swing_c"] * np.cos(2 * np.pi * hours / hours[-1])
    within, period = hours % (life["days"] * 24), life["days"] * 24
    down = np.clip((within - life["full_h"]) / max(period - STEP_H - life["full_h"], STEP_H), 0, 1)
    return {"Time_s": hours * 3600, "SOC": life["high"] - life["depth"] * down, "Temperature_C": temperature}


def lived(of: tuple[str, dict[str, Any]], years: int = YEARS) -> dict[str, Any]:
    name, life = of
    warnings.filterwarnings("ignore")
    cell = getattr(models, name)()
    cell.simulate_battery_life(
        series(life),
        threshold_time=years,
        is_conserve_energy_throughput=False,
        breakpoints_max_time_diff_s=LOOKS_DAYS * 86400,
    )
    days = np.asarray(cell.stressors["t_days"])
    at = [DAYS_A_YEAR * year for year in range(1, years + 1)]
    told = {"q": np.interp(at, days, cell.outputs["q"])}
    if "r" in cell.outputs:
        told["r"] = np.interp(at, days, cell.outputs["r"])
    return {key: [round(float(value), 4) for value in values] for key, values in told.items()}


def small_cells() -> list[str]:
    known = inspect.getmembers(models, inspect.isclass)
    return [name for name, of in known if name != "BatteryDegradationModel" and vars(of()).get("cap", 0) <= SMALL_AH]


def time_one_life() -> None:
    took_ms = []
    for name in small_cells():
        begun = time.perf_counter()
        lived((name, random_life(random.Random(1))), years=5)
        took_ms.append((time.perf_counter() - begun) * 1000)
    print(round(float(np.median(took_ms)), 1))


def main() -> None:
    if sys.argv[1:] == ["--time"]:
        time_one_life()
        return
    chance = random.Random(2026)
    names = small_cells()
    lives = [random_life(chance) for _ in range(int(sys.argv[1]) if len(sys.argv) > 1 else 260)]
    with ProcessPoolExecutor() as pool:
        told = list(pool.map(lived, [(name, life) for life in lives for name in names], chunksize=4))
    per_life = [told[start : start + len(names)] for start in range(0, len(told), len(names))]
    cells = [name.split("_")[0].lower() for name in names]
    text = {"source": "blast-lite 1.1.1, fits of published ageing tests", "years": YEARS, "cells": cells}
    rows = [life | {"told": one} for life, one in zip(lives, per_life, strict=True)]
    INTO.write_text(json.dumps(text | {"lives": rows}, separators=(",", ":")).replace("},{", "},\n{") + "\n")


if __name__ == "__main__":
    main()
