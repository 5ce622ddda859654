"""Random tubes: every yes measured with solids (manifold3d), every answer against a scan by small steps.

The scan is from the picture of the cross-section alone: the cell is moved up and down by hundredths, a board outwards
until a corner touches; along the tube lengths are added up. It shares the arrangements that are meant (docs/formats.md:
cells in line; boards flat, amid the width, behind the cells or beside them) and no formula.
"""

import copy
import itertools
import math
import random

import numpy as np
import pytest
from any_bay import document
from bay_by_document import bodies
from manifold3d import Manifold

from builders import CELL, plan
from chances import EXAMPLES
from pocketspark.core.fit.answer_in_words import in_words
from pocketspark.core.fit.placing import fit_of
from pocketspark.core.fit.remedies import remedies_for
from pocketspark.core.models import Project

DOCUMENTS = max(60, EXAMPLES // 20)
STEP = 0.01


def round_cell(said):
    return said["builds"][0]["cell"]["form"] == "round"


def wall_mm(said):
    return said["gadget"]["bay"]["wall_mm"]


def solid_of(one):
    length, across, tall = (b - a for a, b in zip(one.min_mm, one.max_mm, strict=True))
    if not one.round:
        return Manifold.cube([length, across, tall]).translate(list(one.min_mm))
    cell = Manifold.cylinder(length, across / 2, circular_segments=512).rotate([0, 90, 0])
    return cell.translate([one.min_mm[0], one.min_mm[1] + across / 2, one.min_mm[2] + across / 2])


@pytest.mark.parametrize("furnished", [False, True])
def test_no_part_is_in_the_wall_of_the_tube_or_in_another(furnished):
    checked = 0
    for seed in range(DOCUMENTS):
        said = document(seed, tube=True, furnished=furnished)
        answer = fit_of(Project.model_validate(said))
        if answer is None or answer.fits != "yes":
            continue
        tube = said["gadget"]["bay"]["tube"]
        bore = Manifold.cylinder(tube["length_mm"], tube["diameter_mm"] / 2, circular_segments=720).rotate([0, 90, 0])
        free = bore.translate([0, tube["diameter_mm"] / 2, tube["diameter_mm"] / 2])
        for stands in said["gadget"]["bay"].get("obstacles", []):
            if stands["state"] != "removed":
                free -= Manifold.cube(stands["size_mm"]).translate(stands["at_mm"])
        for end in said["gadget"]["bay"]["walls"]:
            # Noses go into a wall that may be opened.
            at = {"left": -wall_mm(said), "right": tube["length_mm"]}.get(end["side"])
            if at is not None:
                free += Manifold.cube([wall_mm(said), 99, 99]).translate([at, 0, 0])
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


def leave(said, answer):
    """By another arrangement than the scan's: every part by its solid, with its air and what is told to be left."""
    air = {body.name: body.air + answer.clearance_mm - 1e-3 for body in bodies(said["builds"][0])}
    length, radius = answer.tube_mm[1], answer.tube_mm[0] / 2
    for one in answer.placements:
        y, z = ([one.min_mm[a] - radius, one.max_mm[a] - radius] for a in (1, 2))
        out = (
            np.hypot(sum(y) / 2, sum(z) / 2) + (y[1] - y[0]) / 2
            if one.round
            else np.hypot(max(map(abs, y)), max(map(abs, z)))
        )
        yield out <= radius - air[one.part]
        yield one.face_side == "left" or one.min_mm[0] >= air[one.part]
        yield one.face_side == "right" or one.max_mm[0] <= length - air[one.part]
    for one, other in itertools.combinations(answer.placements, 2):
        yield solid_of(one).min_gap(solid_of(other), 10) >= min(max(air[one.part], air[other.part]), 10)


@pytest.mark.parametrize("block", range(6))
def test_same_answer_as_the_scan(block):
    same = {"yes": 0, "no": 0}
    for seed in range(block, DOCUMENTS, 6):
        said = document(seed, tube=True)
        answer = fit_of(Project.model_validate(said))
        if answer is None:
            continue
        if answer.fits == "yes" and goes_in(said, 0.0):
            # What is told to be left is there, and of these arrangements none leaves more.
            assert goes_in(said, answer.clearance_mm - 0.05) or all(leave(said, answer)), seed
            assert not goes_in(said, answer.clearance_mm + 0.05), seed
        else:
            # By another arrangement, which solids measure above, or not at all.
            assert answer.fits in ("yes", "no"), (seed, answer.doubts)
            assert not goes_in(said, 0.05), seed
        same[answer.fits] += 1
    assert sum(same.values()) > 0


# What no row is: a rib in the tube, boards that lie on each other or stand, a socket in the side of a can ------------


def best_amid(radius, size, off, rib):
    """The most air round one part in the cross-section, over a grid of all its places and ways round."""
    best = -math.inf
    (y0, y1), top = rib
    for _, across, up in itertools.permutations(size):
        y, z = np.meshgrid(*(np.arange(-radius, radius, 0.05),) * 2)
        corners = [np.hypot(y + a, z + b) for a in (0, across) for b in (0, up)]
        to_rib = np.maximum(np.maximum(y0 - (y + across), y - y1), z - top)
        best = max(best, float(np.minimum(radius - np.maximum.reduce(corners), to_rib).max()) - off)
    return best


@pytest.mark.parametrize("seed", range(12))
def test_one_part_beside_a_rib_lies_about_as_well_as_anywhere(seed):
    chance = random.Random(seed)
    radius = 14.0
    size = [round(chance.uniform(*span), 1) for span in ((24, 40), (8, 20), (3, 9))]
    thick, tall, at = chance.choice([1.0, 2.0]), round(chance.uniform(2, 14), 1), round(chance.uniform(2, 24), 1)
    rib = {"name": "rib", "at_mm": [0, at, 0], "size_mm": [60, thick, tall], "state": "keep"}
    bay = {"tube": {"diameter_mm": 28.0, "length_mm": 60}, "obstacles": [rib], "tolerance_mm": 0.0}
    cell = CELL | {"form": "block", "size_mm": size[::-1], "own_protection": None}
    answer = fit_of(plan(gadget={"bay": bay}, cell=cell, boards=[], cell_any_way=True))
    wanted = best_amid(radius, size, 0.0, ((at - radius, at + thick - radius), tall - radius))
    if answer.fits == "yes":
        # Below what the grid finds by the steps that the curve is taken as, above it by the grid's own step.
        assert wanted - 0.9 < answer.clearance_mm < wanted + 0.1
    else:
        assert wanted < 0.9


def board(name, mm, **more):
    return {"id": name, "name": name, "outline_mm": mm, "charger": None, "protection": None, "socket": None} | more


def in_tube(diameter, length, boards, walls=("left",), obstacles=(), **window):
    tube = {"diameter_mm": diameter, "length_mm": length}
    bay = {"tube": tube, "walls": [{"side": side, **window} for side in walls], "obstacles": obstacles}
    cell = CELL | {"form": "round", "size_mm": [18.4, 65]}
    return fit_of(plan(gadget={"bay": bay}, cell=cell, boards=boards))


def test_boards_lie_on_each_other_and_one_stands_across_the_bore():
    # Lengths in a row: 65 + 24 + 24 and more. On each other: 65.2 + 24 + gaps; 2 x 4 mm and 16 mm go into 22 mm.
    two = [board("one", [22, 16, 4]), board("other", [22, 16, 4])]
    assert in_tube(22, 92, two).fits == "yes"
    short = in_tube(22, 89, two)
    assert short.fits == "no"
    assert "together" in str(in_words(short))
    assert short.proven
    # A coin of a board on end: hypot(15, 17 + 2 for its wires) = 24.2 mm, and 0.5 on either side. It takes 3 mm along.
    standing = in_tube(26, 71, [board("round about", [17, 15, 3])])
    assert standing.fits == "yes"
    lies = standing.placements[-1]
    assert lies.max_mm[0] - lies.min_mm[0] == pytest.approx(3)
    assert in_tube(25, 71, [board("round about", [17, 15, 3])]).fits != "yes"


def test_a_socket_in_the_side_of_a_can_lies_as_deep_as_its_flat_end_does():
    # Of an end 12 mm across, with 0.5 mm of air at its corners: 17 - sqrt(16.5^2 - 6^2) = 1.63 mm; 4.2 mm across: 0.63.
    socket = board("charger", [20, 12, 4.2], socket={"kind": "type_c"})
    answer = in_tube(34, 100, [socket], walls=("front",))
    assert answer.fits == "yes"
    lies = next(one for one in answer.placements if one.kind == "board")
    assert lies.face_side == "front"
    deep = {12: 1.629, 4.2: 0.634}[round(lies.max_mm[2] - lies.min_mm[2], 3)]
    assert deep - 0.002 < lies.min_mm[1] < deep + 0.3
    hole = next(hole for hole in answer.openings if str(hole.what) == "socket")
    assert hole.for_plug
    assert hole.up_mm - answer.wall_mm == pytest.approx((lies.min_mm[2] + lies.max_mm[2]) / 2, abs=1.5)
    shut = in_tube(
        34,
        100,
        [socket],
        walls=("front",),
        obstacles=[{"name": "sleeve", "at_mm": [0, 0, 0], "size_mm": [100, 3, 34], "state": "keep"}],
    )
    assert shut.fits == "no"
    # Only along a part of its length: there it is.
    windowed = in_tube(34, 100, [socket], walls=("front",), from_mm=10, to_mm=14)
    lies = next(one for one in windowed.placements if one.kind == "board")
    assert 10 <= (lies.min_mm[0] + lies.max_mm[0]) / 2 <= 14


def test_what_helps_in_a_tube_does_help_when_it_is_applied():
    tried = 0
    for seed in range(DOCUMENTS):
        project = Project.model_validate(document(seed, tube=True, furnished=True))
        answer = fit_of(project)
        for remedy in remedies_for(project) if answer and answer.fits == "no" else ():
            if remedy.edits:
                assert fit_of(project.apply(remedy.edits)).fits == "yes", (seed, remedy.says)
                tried += 1
    assert tried > 0


def test_a_tube_that_is_larger_by_what_is_short_does_and_one_that_is_a_little_less_does_not():
    """Made larger in the document all round, with what stands in it in the middle still."""
    tried = 0
    for seed in range(4 * DOCUMENTS):
        said = document(seed, tube=True, furnished=True)
        said["gadget"]["bay"]["tolerance_mm"] = 0
        if all(one["state"] == "removed" for one in said["gadget"]["bay"].get("obstacles", ())):
            continue  # a plain row is short between its parts as well
        answer = fit_of(Project.model_validate(said))
        if answer is None or answer.fits != "no" or answer.clearance_mm is None or not answer.proven:
            continue
        for mm, fits in ((-answer.clearance_mm + 0.01, "yes"), (-answer.clearance_mm - 0.15, "no")):
            again = fit_of(Project.model_validate(larger_all_round(said, mm)))
            assert again.fits == fits or (fits == "yes" and again.fits == "not_certain"), (seed, mm, again.fits)
        # Drawn as far out of the tube as it is short, and no further.
        across = answer.tube_mm[0]
        for one in answer.placements:
            for low, high, size in zip(one.min_mm, one.max_mm, (answer.tube_mm[1], across, across), strict=True):
                assert low >= answer.clearance_mm - 2.5, (seed, one)
                assert high <= size - answer.clearance_mm + 2.5, (seed, one)
        tried += 1
    assert tried > 0


def larger_all_round(said, mm):
    larger = copy.deepcopy(said)
    bay = larger["gadget"]["bay"]
    bay["tube"] = {name: round(size + 2 * mm, 4) for name, size in bay["tube"].items()}
    for one in (*bay.get("obstacles", ()), *larger["builds"][0].get("pins", ())):
        if one.get("at_mm"):
            one["at_mm"] = [at + mm for at in one["at_mm"]]
    for wall in bay["walls"]:
        wall |= {key: wall[key] + mm for key in ("low_mm", "high_mm", "from_mm", "to_mm") if wall.get(key) is not None}
    return larger
