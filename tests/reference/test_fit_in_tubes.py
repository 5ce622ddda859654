"""Random tubes: every yes measured with solids (manifold3d), every answer against a scan by small steps.

The scan is from the picture of the cross-section alone: the cell is moved up and down by hundredths, a board outwards
until a corner touches; along the tube lengths are added up. It shares the arrangements that are meant (docs/formats.md:
cells in line; boards flat, amid the width, behind the cells or beside them) and no formula.
"""

import itertools
import math
import os

import numpy as np
import pytest
from any_bay import document
from bay_by_document import bodies
from manifold3d import Manifold

from pocketspark.core.fit.placing import fit_of
from pocketspark.core.models import Project

DOCUMENTS = max(60, int(os.environ.get("POCKETSPARK_EXAMPLES", "600")) // 20)
STEP = 0.01


def round_cell(said):
    return said["builds"][0]["cell"]["form"] == "round"


def solid_of(one):
    length, across, tall = (b - a for a, b in zip(one.min_mm, one.max_mm, strict=True))
    if not one.round:
        return Manifold.cube([length, across, tall]).translate(list(one.min_mm))
    cell = Manifold.cylinder(length, across / 2, circular_segments=512).rotate([0, 90, 0])
    return cell.translate([one.min_mm[0], one.min_mm[1] + across / 2, one.min_mm[2] + across / 2])


def test_no_part_is_in_the_wall_of_the_tube_or_in_another():
    checked = 0
    for seed in range(DOCUMENTS):
        said = document(seed, tube=True)
        answer = fit_of(Project.model_validate(said))
        if answer is None or answer.fits != "yes":
            continue
        tube = said["gadget"]["bay"]["tube"]
        bore = Manifold.cylinder(tube["length_mm"], tube["diameter_mm"] / 2, circular_segments=720).rotate([0, 90, 0])
        free = bore.translate([0, tube["diameter_mm"] / 2, tube["diameter_mm"] / 2])
        for one in answer.placements:
            part = solid_of(one)
            # Facets: an inscribed polygon is a hair smaller than its circle.
            assert (part - free).volume() < 0.002 * part.volume() + 0.01, (seed, one.part)
            free -= part
            checked += 1
    assert checked > DOCUMENTS / 2


def outermost(radius, width, height):
    """How far out the inner face of a board may lie, its outer corners within this radius; None: nowhere."""
    outer = np.arange(-radius, radius + STEP, STEP)
    inside = outer[np.hypot(width / 2, np.abs(outer)) <= radius]
    inside = inside[np.hypot(width / 2, np.abs(inside - height)) <= radius]
    return None if len(inside) == 0 else float(inside.max() - height)


def across_fits(radius, cells, above, below, spare):
    """Is there a height of the cells at which everything keeps its air, and so much more?"""
    if not cells:
        return True
    middles = np.arange(-radius, radius + STEP, STEP)
    for cell in cells:
        _, width, height = cell.mm
        if cell.mm[1] == cell.mm[2] and cell.shows_at == "round":
            middles = middles[np.abs(middles) + width / 2 <= radius - cell.air - spare]
        else:
            corner = np.maximum(
                np.hypot(width / 2, np.abs(middles + height / 2)), np.hypot(width / 2, np.abs(middles - height / 2))
            )
            middles = middles[corner <= radius - cell.air - spare]
        for sign, boards in ((1, above), (-1, below)):
            for board in boards:
                face = outermost(radius - board.air - spare, board.mm[1], board.mm[2])
                if face is None:
                    return False
                air = max(board.air, cell.air) + spare
                middles = middles[sign * middles + height / 2 + air <= face]
    return len(middles) > 0


def along_fits(length, cells, sides, in_line, spare):
    """Do the lengths add up, with air before, between and behind, but for what shows at an end?"""
    ends = []
    for run in (cells, *sides):
        at, last = 0.0, None
        for body in run:
            shows = last is None and run is not cells and body.shows_at is not None
            at += 0.0 if shows else max(body.air, last.air if last else 0.0) + spare
            at, last = at + body.mm[0], body
        ends.append((at, last))
    at, last = max(ends, key=lambda end: end[0] + (end[1].air if end[1] else 0))
    for body in in_line:
        at += max(body.air, last.air if last else 0.0) + spare
        at, last = at + body.mm[0], body
    shown = bool(in_line) and in_line[-1].shows_at is not None
    tails = [(at, last.air if last else 0.0, shown)] if in_line else [(e, b.air if b else 0.0, False) for e, b in ends]
    tails += [(e, b.air if b else 0.0, False) for e, b in ends if in_line]
    return all(end + (0.0 if shows else air + spare) <= length + 1e-9 for end, air, shows in tails)


def alone_fits(radius, body, spare):
    reach = body.mm[1] / 2 if body.shows_at == "round" else math.hypot(body.mm[1], body.mm[2]) / 2
    return reach <= radius - body.air - spare


def shows(body):
    return body.shows_at not in (None, "round")


def goes_in(said, spare):
    """By any arrangement, with so much air to spare everywhere."""
    build, bay = said["builds"][0], said["gadget"]["bay"]
    everything = bodies(build)
    count = build["cell_count"]
    names = {build["cell"]["name"], *(f"{build['cell']['name']} #{n + 1}" for n in range(count))}
    cells = [body._replace(shows_at="round") if round_cell(said) else body for body in everything if body.name in names]
    rest = [body for body in everything if body.name not in names]
    ends = {wall["side"] for wall in bay["walls"]}
    radius, length = bay["tube"]["diameter_mm"] / 2, bay["tube"]["length_mm"]
    for lanes in itertools.product("iab" if cells else "i", repeat=len(rest)):
        runs = {lane: [b for b, own in zip(rest, lanes, strict=True) if own == lane] for lane in "iab"}
        if any(sum(map(shows, run)) > 1 for run in runs.values()):
            continue
        near, far = any(shows(b) for b in (*runs["a"], *runs["b"])), any(map(shows, runs["i"]))
        wanted = [{"left"} if near else set(), {"right"} if far else set()]
        mirrored = [{"right"} if near else set(), {"left"} if far else set()]
        if not any(set().union(*way) <= ends for way in (wanted, mirrored)):
            continue
        sides = [sorted(runs[lane], key=lambda b: not shows(b)) for lane in "ab"]
        in_line = sorted(runs["i"], key=shows)
        if not all(alone_fits(radius, body, spare) for body in (*cells, *in_line)):
            continue
        if not along_fits(length, cells, sides, in_line, spare):
            continue
        if across_fits(radius, cells, *sides, spare):
            return True
    return False


@pytest.mark.parametrize("block", range(6))
def test_same_answer_as_the_scan(block):
    same = {"yes": 0, "no": 0}
    for seed in range(block, DOCUMENTS, 6):
        said = document(seed, tube=True)
        answer = fit_of(Project.model_validate(said))
        if answer is None:
            continue
        if answer.fits == "yes":
            # What is told to be left is there, and hardly more.
            assert goes_in(said, answer.clearance_mm - 0.05), seed
            assert not goes_in(said, answer.clearance_mm + 0.05), seed
        else:
            assert answer.fits == "no", (seed, answer.doubts)
            assert not goes_in(said, 0.05), seed
        same[answer.fits] += 1
    assert min(same.values()) > 0
