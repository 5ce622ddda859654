"""Speed, as ratios against named references measured in the same run. No test depends on these figures."""

import gzip
import io
import random
import statistics
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable, Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import replace
from functools import partial
from importlib import import_module
from pathlib import Path
from typing import Any

import httpx
import numpy as np
import pandas
from scipy.integrate import solve_ivp

from crowd import crowd, long_shelf
from headless import ROOT, chromium, context_of, running_app
from pocketspark.core.chain import Chain
from pocketspark.core.faults.fault import faults_of
from pocketspark.core.faults.outcome import solve
from pocketspark.core.faults.situation import situations_of
from pocketspark.core.faults.soldered_circuit import Soldered
from pocketspark.core.fit.placing import fit_of
from pocketspark.core.kinds.regulators import law_of_regulator
from pocketspark.core.kinds.stations import STATIONS
from pocketspark.core.life.years import Years
from pocketspark.core.logs.analysis import analyse
from pocketspark.core.models import Project, Regulator
from pocketspark.core.models.record import Record
from pocketspark.core.models.wiring import Wiring
from pocketspark.core.physics.ageing import AGEING, Stress, calendar_rate, losses
from pocketspark.core.physics.charge_and_discharge import CellGroup, ChargerSetting, charge, discharge
from pocketspark.core.physics.load import Load
from pocketspark.core.physics.ocv import Floats, Numbers, curve_of
from pocketspark.core.proposals import OnOffer, Proposal, proposals
from pocketspark.core.proposals.objectives import FIGURES, room_mm, weighed, work_of
from pocketspark.core.proposals.proposal import weighed_one
from pocketspark.core.questions.assess import assess
from pocketspark.core.questions.measure_next import next_readings
from pocketspark.core.questions.regulator_options import regulator_options
from pocketspark.core.questions.scenarios import scenarios
from pocketspark.demo import demo_projects
from pocketspark.formats.log_csv import read_log, to_csv
from pocketspark.instruments import Bench, Meter, charge_log
from pocketspark.parts import library
from pocketspark.server.proposals import on_offer

sys.path.insert(0, str(ROOT / "tests" / "reference"))

CURVE = curve_of("li_4v20")
CAPACITY_AH, R_OHM, START_SOC = 1.0, 0.150, 0.02
CHARGE_A, END_A, DRAW_A = 0.5, 0.05, 0.2
BATCH = 2000


def median_ms(work: Callable[[], object], times: int) -> float:
    work()
    spans = []
    for _ in range(times):
        begun = time.perf_counter()
        work()
        spans.append((time.perf_counter() - begun) * 1000)
    return statistics.median(spans)


# Ours ----------------------------------------------------------------------------------------------------------


def our_charge(capacity: Numbers = CAPACITY_AH, r_ohm: Numbers = R_OHM, share: Numbers = 1.0) -> Floats:
    setting = ChargerSetting(CHARGE_A * share, termination_share=END_A / CHARGE_A, cable_ohm=0, pass_ohm=0)
    return charge(CellGroup(CURVE, capacity, r_ohm), setting, from_soc=START_SOC).hours


def our_discharge(capacity: Numbers = CAPACITY_AH, r_ohm: Numbers = R_OHM, share: Numbers = 1.0) -> Floats:
    group = CellGroup(CURVE, capacity, r_ohm)
    cuts = {"cell": 3.0}
    load = Load(DRAW_A * share)
    return discharge(group, 0, law_of_regulator(Regulator()), load, v_run_min=0.5, cell_cuts=cuts, full_v=4.2).hours


# scipy: the same circuit as a differential equation with events ------------------------------------------------


def scipy_charge() -> float:
    def current(soc: float) -> float:
        return float(min(CHARGE_A, (4.2 - np.interp(soc, CURVE.soc, CURVE.volts)) / R_OHM))

    def full(_t: float, y: np.ndarray) -> float:
        return current(y[0]) - END_A

    full.terminal = True  # type: ignore[attr-defined]
    run = solve_ivp(lambda _t, y: [current(y[0])], (0, 20), [START_SOC], "LSODA", events=full, rtol=1e-6, atol=1e-9)
    return float(run.t[-1])


def scipy_discharge() -> float:
    def empty(_t: float, y: np.ndarray) -> float:
        return float(np.interp(y[0], CURVE.soc, CURVE.volts) - DRAW_A * R_OHM - 3.0)

    empty.terminal = True  # type: ignore[attr-defined]
    run = solve_ivp(lambda _t, _y: [-DRAW_A], (0, 20), [1.0], "LSODA", events=empty, rtol=1e-6, atol=1e-9, max_step=0.5)
    return float(run.t[-1])


def physics() -> None:
    import pybamm
    from pybamm_cell import charge_hours, discharge_hours

    def pybamm_charge() -> float:
        return float(charge_hours(CHARGE_A, END_A)[1])

    def pybamm_discharge() -> float:
        return float(discharge_hours(pybamm.step.current(DRAW_A, termination="3.0V")))

    # Every scenario differs from every other in capacity, resistance and current.
    spread = np.linspace(0.5, 1.5, BATCH)[:, None]
    many = (CAPACITY_AH * spread, R_OHM * spread[::-1], spread)
    for name, ours, scipy_one, pybamm_one in (
        ("charge", our_charge, scipy_charge, pybamm_charge),
        ("discharge", our_discharge, scipy_discharge, pybamm_discharge),
    ):
        single = median_ms(ours, 100)
        batched = median_ms(partial(ours, *many), 10) / BATCH
        hours = float(ours())
        print(f"{name}: {single:.3f} ms alone, {batched * 1000:.1f} us each in a batch of {BATCH}")
        for reference, one in (("scipy solve_ivp", scipy_one), ("PyBaMM, built and solved", pybamm_one)):
            theirs = median_ms(one, 5)
            ratios = f"{theirs / single:.0f} x alone, {theirs / batched:.0f} x batched"
            print(f"  {reference}: {theirs:.1f} ms = {ratios}; differs by {abs(one() / hours - 1):.3%}")


# The rest ------------------------------------------------------------------------------------------------------


def whole_assessment() -> None:
    for project in demo_projects()[:3]:
        print(f"assess {project.gadget.name}: {median_ms(partial(assess, project), 50):.1f} ms")


LIVES = 10_000
# The package of published ageing fits wants an older numpy: an environment of its own, made once.
AGEING_HOME, AGEING_PACKAGE = ROOT / ".ageing", "blast-lite==1.1.1"


def ageing_package_ms() -> float | None:
    """A life of five years by the package, the median of its cells; None where it cannot be had."""
    python = AGEING_HOME / "bin" / "python"
    made = ["-m", "pip", "install", "--quiet", AGEING_PACKAGE]
    try:
        if not python.exists():
            subprocess.run([sys.executable, "-m", "venv", AGEING_HOME], check=True)
            subprocess.run([python, *made], check=True, capture_output=True)
        told = subprocess.run(
            [python, ROOT / "tools" / "ageing_reference.py", "--time"], check=True, capture_output=True, text=True
        )
    except (OSError, subprocess.CalledProcessError):
        return None
    return float(told.stdout)


def lives() -> None:
    """Five years of many cells at once, and of one build, beside the package of published fits and scipy."""
    law, months = AGEING["lithium"], 60
    chance = np.random.default_rng(1)
    celsius = chance.uniform(5, 35, (LIVES, 1)) + 8 * np.sin(np.arange(months) * np.pi / 6)
    stress = Stress(celsius, 1.0, 0.2, 0.1, 4.0, 0.5)
    many_ms = median_ms(lambda: losses(law, stress), 3)
    rates = np.asarray(calendar_rate(law, replace(stress, celsius=celsius[0])))
    power = law.calendar_power

    def moved(years: float, lost: Floats) -> Floats:
        rate = rates[min(int(years * 12), months - 1)] ** (1 / power)
        return np.asarray(power * rate * np.maximum(lost, 1e-6) ** (1 - 1 / power))

    one_ms = median_ms(lambda: solve_ivp(moved, (0, 5), [1e-4], max_step=1 / 12), 3)
    running = Chain(demo_projects()[0], 0).required_running()
    build_ms = median_ms(lambda: Years(running, 5).serves_years, 5)
    print(f"{LIVES} lives of five years: {many_ms:.0f} ms; one by scipy's solve_ivp: {one_ms:.0f} ms, ", end="")
    print(f"{one_ms * LIVES / many_ms:,.0f} times as long for all; the years of one build: {build_ms:.1f} ms")
    package_ms = ageing_package_ms()
    if package_ms is None:
        print(f"  {AGEING_PACKAGE} cannot be had here, so it is not beside it")
    else:
        once, all_of_them = package_ms / build_ms, package_ms * LIVES / many_ms
        print(
            f"  {AGEING_PACKAGE}: {package_ms:.0f} ms a life = {once:.0f} x one build of ours, {all_of_them:,.0f} x all"
        )


def single_faults() -> None:
    """Every fault of a build in every situation, beside ngspice on one of them."""
    reference = import_module("fault_circuit")

    project = demo_projects()[0]
    chain = Chain(project, 0)
    soldered = Soldered(chain)
    situations, faults = situations_of(chain), faults_of(chain, soldered.hookup)
    sound = solve(soldered, [(None, one) for one in situations])
    cases = [(fault, one) for fault in faults for one in situations]
    begin_v = np.tile(sound.first.volts, (len(faults), 1))
    ours_ms = median_ms(partial(solve, soldered, cases, begin_v), 3)
    made = reference.circuit_of(chain, soldered.hookup, {}, faults[0], situations[1])
    theirs_ms = median_ms(partial(reference.rested, made, chain.build, faults[0]), 3) * len(cases)
    print(f"single faults of {project.gadget.name}, {len(cases)} cases: {ours_ms:.0f} ms; ", end="")
    print(f"by ngspice, one after another, {theirs_ms:.0f} ms = {theirs_ms / ours_ms:.1f} x")


def questions() -> None:
    project = demo_projects()[0]
    boards = [part.board for part in library().parts if part.board and part.board.regulator]

    def with_all_regulators() -> None:
        assess(project)
        regulator_options(project, 0, boards)

    print(f"assess and all {len(boards) + 1} regulators compared: {median_ms(with_all_regulators, 20):.1f} ms")
    print(f"measure next: {median_ms(partial(next_readings, project), 10):.1f} ms")
    print(f"scenarios, five uses and three conditions: {median_ms(partial(scenarios, project), 10):.1f} ms")


def fits() -> None:
    """The placement search against HiGHS on the same questions in the same run."""
    from milp_packing import best_value

    from packing_instances import question
    from pocketspark.core.fit.branch_and_bound import get_ready, search

    get_ready()
    for parts, seeds in ((4, range(300, 324)), (5, range(400, 412)), (6, range(500, 508)), (7, range(600, 608))):
        asked = [question(seed, parts=parts) for seed in seeds]
        ours = [median_ms(partial(search, one), 1) for one in asked]
        answers = [search(one) for one in asked]
        goes_in = [span for span, answer in zip(ours, answers, strict=True) if answer.placed]
        proven = [span for span, answer in zip(ours, answers, strict=True) if not answer.placed]
        print(
            f"fit, {parts} parts: median {statistics.median(ours):.1f} ms, worst {max(ours):.0f} ms; "
            f"{len(goes_in)} go in (median {statistics.median(goes_in or [0]):.1f} ms), "
            f"{len(proven)} proven not to (median {statistics.median(proven or [0]):.1f} ms)"
        )
        if parts > 4:
            continue
        begun = time.perf_counter()
        theirs = [best_value(one) for one in asked]
        milp_ms = (time.perf_counter() - begun) * 1000 / len(asked)
        same = sum(_agree(a.value if a.placed else None, b) for a, b in zip(answers, theirs, strict=True))
        ratio = milp_ms / statistics.mean(ours)
        print(f"  HiGHS MILP of the same model: mean {milp_ms:.0f} ms = {ratio:.0f} x; {same} of {len(asked)} agree")


def _agree(ours: float | None, theirs: float | None) -> bool:
    if ours is None or theirs is None:
        return ours is theirs
    return abs(ours - theirs) < 0.05


def sweep_all() -> None:
    from pocketspark.core.fit.sweep import what_fits

    project = demo_projects()[0]
    cells = {part.id: part.cell for part in library().of("cell") if part.cell}
    # As many again a little smaller, so that it is some 60.
    smaller = {
        f"{name} less": cell.model_copy(update={"size_mm": tuple(mm * 0.93 for mm in cell.size_mm)})
        for name, cell in cells.items()
        if cell.size_mm
    }
    boards = [part.board for part in library().of("charger") if part.board][:6]
    sets = {board.name: [board] for board in boards}
    begun = time.perf_counter()
    found = [one for _, _, one in what_fits(project, 0, cells | smaller, sets) if one]
    span = time.perf_counter() - begun
    count = len(cells) + len(smaller)
    print(f"sweep of {count} cells x {len(sets)} board sets: {span:.2f} s, {len(found)} of {count * len(sets)} go in")


def planning(named: int = 9, sample: int = 100) -> None:
    """Every demo gadget, against judging builds one by one; of those a sample is drawn, and none may beat the front."""
    offer = on_offer(library())
    for project in demo_projects():
        begun = time.perf_counter()
        spans: dict[str, float] = {}
        for state in proposals(project, 0, offer):
            for what, least in (("first", 1), (f"{named} of them", named)):
                if len(state.front) >= least:
                    spans.setdefault(what, time.perf_counter() - begun)
        whole = time.perf_counter() - begun
        looks = ", ".join(f"{what} after {span:.2f} s" for what, span in spans.items())
        print(f"plan {project.gadget.name}: {state.builds} builds in {whole:.1f} s, front {len(state.front)}; {looks}")
        one_by_one, sound, better = _one_by_one(project, offer, state.front, sample)
        ratio = one_by_one * state.builds / whole
        print(f"  assess and fit of {sample} drawn: {one_by_one * 1000:.0f} ms each = {ratio:.0f} x for all of them;"
              f" {sound} sound, {better} better than the front")  # fmt: skip


def _one_by_one(project: Project, offer: OnOffer, front: Sequence[Proposal], sample: int) -> tuple[float, int, int]:
    """Seconds a build, how many were sound, and how many of those no proposal is as good as."""
    chance, table = random.Random(1), np.array([weighed_one(one) for one in front]).reshape(-1, FIGURES)
    mode = max((mode for mode in project.gadget.modes if mode.current_a > 0), key=lambda mode: mode.hours_per_day)
    sound = better = 0
    begun = time.perf_counter()
    for _ in range(sample):
        cell, charger = chance.choice(offer.cells), chance.choice(offer.chargers)
        regulator = chance.choice(offer.regulators)
        protected = cell.body.protection or charger.body.protection
        parts = [
            charger,
            *([] if protected else [chance.choice(offer.protections)]),
            *([regulator] if regulator else []),
        ]
        build = project.builds[0].model_copy(update={
            "cell": cell.body, "cell_count": chance.choice((1, 2, 3)), "policy": chance.choice(("gentle", "label")),
            "boards": tuple(part.body.model_copy(update={"id": f"board{n}"}) for n, part in enumerate(parts, 1)),
            "cells_in_series": 1, "unlike_cells": (), "who_charges": "board", "regulator": None, "r_prog_ohm": None,
            "outside": (), "shell_off": (), "pins": (), "wiring": Wiring(), "record": Record(), "practice": False,
        })  # fmt: skip
        asked = project.model_copy(update={"builds": (build,), "basis": {}})
        if charging := Chain(asked, 0).board_charging:  # set as the tool suggests, as every proposal is
            build = build.model_copy(update={"r_prog_ohm": charging.current.suggested_r_ohm})
            asked = asked.model_copy(update={"builds": (build,)})
        seen, answer = assess(asked), fit_of(asked)
        if (
            seen.worst == "stop"
            or answer is None
            or answer.fits not in ("yes", "too_close")
            or not (seen.charging and seen.charging.hours)
        ):
            continue
        assert seen.run is not None
        hours = next(run.service_hours for run in Chain(asked, 0).required_running().runs if run.mode.name == mode.name)
        price = sum(part.price for part in parts) + cell.price * build.cell_count
        work = sum(work_of(Chain(asked, 0)))
        off_days, room = float(seen.run.standby_days), room_mm(build, answer.clearance_mm)
        share = Chain(asked, 0).required_running().light_half
        light = 1.0 if share is None else share
        figures = weighed(hours, price, float(seen.charging.hours), work, off_days, light, room)
        sound += 1
        better += not bool((table <= figures + 1e-9).all(axis=1).any())
    return (time.perf_counter() - begun) / sample, sound, better


def long_log() -> None:
    """A meter's log of 200,000 rows with a broken one, against pandas reading the same text."""
    run = charge_log(Bench(), Meter(step_s=0.065))
    rows = to_csv(run).splitlines()[:200_001]
    text = "\n".join([*rows[:90_000], "overload", *rows[90_001:]])

    def ours() -> None:
        assert len(read_log(text).bad_rows) == 1

    read_ms = median_ms(ours, 3)
    taken = read_log(text).log
    analyse_ms = median_ms(lambda: analyse(taken), 3)
    pandas_ms = median_ms(lambda: pandas.read_csv(io.StringIO(text), on_bad_lines="skip"), 3)
    print(
        f"log of {len(rows) - 1:,} rows: read in {read_ms:.0f} ms ({read_ms / pandas_ms:.1f} x pandas' read_csv), "
        f"analysed in {analyse_ms:.0f} ms"
    )


def server() -> None:
    body = {"document": demo_projects()[0].model_dump(mode="json")}
    with tempfile.TemporaryDirectory() as data, running_app(Path(data)) as address:
        with httpx.Client(base_url=address) as client:
            spans = sorted(median_ms(lambda: client.post("/api/questions/assess", json=body), 1) for _ in range(200))
        print(f"POST /api/questions/assess: median {spans[100]:.1f} ms, p95 {spans[190]:.1f} ms, one after the other")
        with httpx.Client(base_url=address) as client, ThreadPoolExecutor(4) as pool:
            begun = time.perf_counter()
            list(pool.map(lambda _: client.post("/api/questions/assess", json=body).raise_for_status(), range(300)))
            print(
                f"  {300 / (time.perf_counter() - begun):.0f} requests a second from four clients, one server process"
            )
        keystroke(address)


def keystroke(address: str) -> None:
    """From an input event in the page to the changed figure in the drawn page."""
    with chromium() as browser:
        page = context_of(browser).new_page()
        page.goto(address)
        page.get_by_role("link", name="Moth-trap lamp").click()
        page.get_by_role("list", name="Power path").wait_for()
        page.locator("body").press("4")
        page.get_by_label("Measured on the board").fill("")
        page.wait_for_timeout(1000)
        spans = page.evaluate(_TYPED, ['[data-path$="r_prog_ohm"]', ".path", [3.1 + i / 10 for i in range(20)]])
        print(f"keystroke to new numbers on the chain: median {spans[10]:.0f} ms, worst of 20 {spans[-1]:.0f} ms")
        page.goto(page.url.replace("/charge", "/fit"))
        page.get_by_role("region", name="The bay").wait_for()
        page.wait_for_timeout(1000)
        spans = page.evaluate(
            _TYPED,
            [
                '[data-path="gadget.bay.rooms.0.size_mm.0"]',
                '[aria-label="Bay from above, front and side"]',
                [63 + i for i in range(20)],
            ],
        )
        print(f"moved caliper figure to the answer redrawn: median {spans[10]:.0f} ms, worst of 20 {spans[-1]:.0f} ms")


# Types each value into a field and waits for what is watched to change; sorted spans in ms.
_TYPED = """async ([field, watched, values]) => {
  const input = document.querySelector(field)
  const seen = () => document.querySelector(watched).textContent
  const spans = []
  for (const value of values) {
    const before = seen(), begun = performance.now()
    input.value = String(value)
    input.dispatchEvent(new Event('input', { bubbles: true }))
    while (seen() === before) await new Promise(requestAnimationFrame)
    spans.push(performance.now() - begun)
  }
  return spans.sort((a, b) => a - b)
}"""


# What the browser itself keeps account of while a page comes: tasks over 50 ms, and what moved under the eye.
_WATCHED = """window.seen = { blocked: 0, shifted: 0 }
new PerformanceObserver((list) => {
  for (const task of list.getEntries()) window.seen.blocked += task.duration - 50
}).observe({ type: 'longtask', buffered: true })
new PerformanceObserver((list) => {
  for (const move of list.getEntries()) if (!move.hadRecentInput) window.seen.shifted += move.value
}).observe({ type: 'layout-shift', buffered: true })"""
_FIRST_PAINT = "performance.getEntriesByName('first-contentful-paint')[0].startTime"


def page_loads() -> None:
    """Each station with an empty browser cache; and a keystroke where twelve modes and twelve builds are kept."""
    with tempfile.TemporaryDirectory() as data, running_app(Path(data)) as address, chromium() as browser:
        lines = httpx.get(f"{address}/api/projects").json()
        lamp = next(line["id"] for line in lines if line["name"] == "Moth-trap lamp")
        for path in ["/", *(f"/conversion/{lamp}/{station}" for station in STATIONS)]:
            page = context_of(browser).new_page()
            page.add_init_script(_WATCHED)
            page.goto(address + path)
            # Not a wait for what is on it: asking would be work on the page, counted as its own.
            page.wait_for_timeout(3000)
            paint, seen = page.evaluate(_FIRST_PAINT), page.evaluate("window.seen")
            print(
                f"{path}: first paint {paint:.0f} ms, blocked {seen['blocked']:.0f} ms, shifted {seen['shifted']:.3f}"
            )
            page.context.close()
        crowded = _crowded(httpx.get(f"{address}/api/projects/{lamp}").json()["project"])
        made = httpx.post(f"{address}/api/projects", json=crowded).json()["id"]
        page = context_of(browser).new_page()
        page.goto(f"{address}/conversion/{made}/charge")
        page.get_by_label("Measured on the board").fill("")
        page.wait_for_timeout(1500)
        spans = page.evaluate(_TYPED, ['[data-path$="r_prog_ohm"]', ".path", [3.1 + i / 10 for i in range(20)]])
        print(f"keystroke, 12 modes and 12 builds: median {spans[10]:.0f} ms, worst of 20 {spans[-1]:.0f} ms")


def _crowded(document: dict[str, Any]) -> dict[str, Any]:
    mode, build = document["gadget"]["modes"][0], document["builds"][0]
    document["gadget"]["modes"] = [mode | {"id": "", "name": f"mode {n}", "hours_per_day": 1} for n in range(12)]
    document["builds"] = [build | {"id": "", "name": f"build {n}"} for n in range(12)]
    return document


def first_load() -> None:
    """What the list of projects needs before it shows: the page, and what its script imports at once."""
    web = ROOT / "build" / "web"
    index = (web / "index.html").read_text()
    wanted = [file for file in (web / "assets").iterdir() if file.name in index]
    zipped = {file: len(gzip.compress(file.read_bytes())) for file in _scripts_and_styles(web / "assets")}
    first = sum(zipped[file] for file in wanted if file in zipped) / 1000
    print(f"first load: {first:.0f} kB gzipped; all pages and charts: {sum(zipped.values()) / 1000:.0f} kB")


def _scripts_and_styles(folder: Path) -> list[Path]:
    return [file for file in folder.iterdir() if file.suffix in (".js", ".css")]


if __name__ == "__main__":
    physics()
    whole_assessment()
    lives()
    single_faults()
    questions()
    fits()
    sweep_all()
    planning()
    long_log()
    server()
    crowd()
    long_shelf()
    page_loads()
    first_load()
