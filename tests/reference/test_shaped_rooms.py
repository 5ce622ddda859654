"""Round-bottomed troughs and rounded corners: every yes by exact solids (manifold3d), and the best place of one part by
trying all of them on a fine grid. chances.EXAMPLES / 20: how many bays."""

import itertools
import random

import numpy as np
import pytest
from manifold3d import CrossSection, Manifold

from builders import CELL, plan
from chances import EXAMPLES, same_dice
from pocketspark.core.fit.answer import NOWHERE
from pocketspark.core.fit.placing import fit_of
from pocketspark.core.fit.remedies import remedies_for

BAYS = max(60, EXAMPLES // 20)
NOTHING_MM3 = 0.05


def hollow(room):
    """What is free in a room of this shape: a rounded rectangle upright, less the ridges between its troughs."""
    length, width, height = room["size_mm"]
    if lean := room.get("narrows_mm"):
        # Counted from the corner of its floor; under the lid it is wider by half of the lean on each side.
        corners = itertools.product((0.0, length - lean), (0.0, width - lean))
        out = [(x, y, 0.0) for x, y in corners]
        out += [(x, y, height) for x in (-lean / 2, length - lean / 2) for y in (-lean / 2, width - lean / 2)]
        return Manifold.hull_points(out)
    corner = max(room["corner_mm"], 1e-6)
    outline = CrossSection.square([length - 2 * corner, width - 2 * corner]).translate([corner, corner])
    free = Manifold.extrude(outline.offset(corner, circular_segments=256), height)
    if room["troughs"]:
        radius = width / room["troughs"] / 2
        above = Manifold.cube([length, width, height]).translate([0, 0, radius])
        for number in range(room["troughs"]):
            rod = Manifold.cylinder(length, radius, radius, 720).rotate([0, 90, 0])
            above += rod.translate([0, radius * (2 * number + 1), radius])
        free ^= above
    return free


def body(one):
    low, high = one.min_mm, one.max_mm
    size = [b - a for a, b in zip(low, high, strict=True)]
    if one.round:
        axis = {"along the bay": 0, "across the bay": 1, "upright": 2}[one.turned]
        across = size[(axis + 1) % 3]
        rod = Manifold.cylinder(size[axis], across / 2, across / 2, 720)
        rod = rod.rotate([(0, 90, 0), (-90, 0, 0), (0, 0, 0)][axis])
        middle = [(a + b) / 2 for a, b in zip(low, high, strict=True)]
        middle[axis] = low[axis]
        return rod.translate(middle)
    return Manifold.cube(size).translate(list(low))


def random_bay(chance):
    size = [round(chance.uniform(*span), 1) for span in ((30, 60), (12, 40), (9, 20))]
    most = [troughs for troughs in (0, 1, 2, 3) if not troughs or size[1] / troughs / 2 < size[2]]
    corner = chance.choice([0, 0, 1.5, 4])
    room = {"size_mm": size, "troughs": chance.choice(most), "corner_mm": min(corner, size[1] / 2)}
    leans = room["troughs"] == room["corner_mm"] == 0
    return room | ({"narrows_mm": chance.choice([0.0, 0.8, 2.0])} if leans else {})


def random_cell(chance):
    if chance.random() < 0.6:
        return {"form": "round", "size_mm": [round(chance.uniform(7, 15), 1), round(chance.uniform(20, 50), 1)]}
    return {"form": "block", "size_mm": [round(chance.uniform(*span), 1) for span in ((3, 9), (8, 25), (18, 45))]}


def test_every_yes_lies_in_the_true_shape():
    chance, yes, settled = same_dice(12), 0, 0
    for number in range(2 * BAYS):
        room = random_bay(chance)
        said = {"rooms": [room], "walls": [{"side": "lid"}], "tolerance_mm": 0.0}
        boards = [{"name": "board", "outline_mm": [20, 10, 3], "charger": None, "protection": None, "socket": None}]
        parts = {"cell_count": chance.choice([1, 1, 2, 3]), "boards": boards if chance.random() < 0.4 else []}
        answer = fit_of(plan(gadget={"bay": said}, cell=CELL | random_cell(chance), **parts))
        assert answer.fits in ("yes", *NOWHERE), (number, answer.doubts)
        settled += answer.proven
        free = hollow(room)
        for one in answer.placements if answer.fits == "yes" else ():
            part = body(one)
            assert (part - free).volume() < NOTHING_MM3, (number, room, one)
            free -= part
            yes += 1
    assert yes > BAYS / 2
    assert settled > 0.9 * 2 * BAYS


def best_by_trying(room, diameter):
    """The most air round a circle in the cross-section of a trough, over a grid of all its places."""
    _, width, height = room["size_mm"]
    radius, own = width / room["troughs"] / 2, diameter / 2
    ridges = [2 * radius * number for number in range(room["troughs"] + 1)]
    y, z = np.meshgrid(width * np.arange(1, 800) / 800, height * np.arange(1, 400) / 400)
    axis = radius * (2 * (y // (2 * radius)) + 1)
    below = np.where(z < radius, radius - np.hypot(y - axis, z - radius), np.inf)
    for ridge in ridges[1:-1]:
        below = np.where(z >= radius, np.minimum(below, np.hypot(y - ridge, z - radius)), below)
    return float(np.minimum(np.minimum(y, width - y), np.minimum(height - z, below)).max()) - own


@pytest.mark.parametrize("seed", range(24))
def test_a_round_cell_lies_in_its_trough_wherever_a_circle_does(seed):
    """What the steps lose: a tenth of a millimetre where it lies in its trough, and more only where there is more."""
    chance = random.Random(100 + seed)
    troughs, across = chance.choice([1, 2, 3]), round(chance.uniform(8, 18), 1)
    deep = round(across * chance.uniform(0.8, 1.6), 1)
    room = {"size_mm": [60, round(across * troughs, 1), deep], "troughs": troughs, "corner_mm": 0}
    diameter = round(across * chance.uniform(0.5, 1.02), 1)
    bay = {"rooms": [room], "walls": [{"side": "lid"}], "tolerance_mm": 0.0}
    cell = CELL | {"form": "round", "size_mm": [diameter, 50]}
    answer = fit_of(plan(gadget={"bay": bay}, cell=cell, boards=[]))
    wanted = best_by_trying(room, diameter + 0.4)  # as round cells run over
    in_its_trough = max((across - diameter - 0.4) / 2, 0.0)
    if wanted < -0.05:  # nearer than the grid is fine
        assert answer.fits in NOWHERE
    elif wanted > (0.1 if in_its_trough else 0.8):
        assert answer.fits == "yes"
        assert answer.clearance_mm <= wanted + 0.03
        assert answer.clearance_mm >= min(wanted - 0.1, max(in_its_trough - 0.1, wanted - 1.0))


def test_three_sticks_where_three_sticks_were_and_a_pouch_only_over_the_ridges():
    # IEC 60086-2, from memory: an AA cell is 14.5 mm thick at most, so three troughs of 15 mm.
    room = {"size_mm": [55, 45, 15], "troughs": 3}
    bay = {"rooms": [room], "walls": [{"side": "lid"}], "tolerance_mm": 0.0}
    stick = CELL | {"form": "round", "size_mm": [14, 50]}
    assert fit_of(plan(gadget={"bay": bay}, cell=stick, cell_count=3, boards=[])).fits == "yes"
    flat = {"rooms": [room | {"troughs": 0}], "walls": [{"side": "lid"}], "tolerance_mm": 0.0}
    for thick, troughs, fits in ((6.0, bay, "yes"), (6.6, bay, "not_settled"), (7.2, flat, "yes")):
        pouch = CELL | {"size_mm": [thick, 34, 50]}
        # The ridges are 7.5 mm high, and as hard as a rib, from which a pouch keeps 0.5; it swells by a tenth.
        assert fit_of(plan(gadget={"bay": troughs}, cell=pouch, boards=[])).fits == fits, thick


def test_a_slimmer_round_cell_that_is_advised_goes_in_and_one_hardly_slimmer_does_not():
    advised = 0
    for deep in (11.0, 12.5, 13.5):
        room = {"size_mm": [56, 45, deep], "troughs": 3}
        bay = {"rooms": [room], "walls": [{"side": "lid"}], "tolerance_mm": 0.2}
        cell = CELL | {"form": "round", "size_mm": [14.0, 50]}
        for remedy in remedies_for(plan(gadget={"bay": bay}, cell=cell, boards=[])):
            if str(remedy.what) != "slimmer":
                continue
            advised += 1
            for mm, fits in ((remedy.mm, "yes"), (remedy.mm - 0.2, "too_close")):
                slimmer = cell | {"size_mm": [round(14.0 - mm, 3), 50]}
                assert fit_of(plan(gadget={"bay": bay}, cell=slimmer, boards=[])).fits == fits, (deep, mm)
    assert advised == 3


def test_walls_that_lean_are_counted_with_as_at_the_floor():
    # By hand: 50 mm of cell with 0.4 mm of calipers' doubt at either end want 50.8; 52 under the lid are 51.2 or 50.2.
    cell = CELL | {"form": "block", "size_mm": [6, 34, 50]}
    for lean, fits in ((0.0, "yes"), (0.8, "yes"), (1.8, "too_close")):
        room = {"size_mm": [52, 40, 9], "narrows_mm": lean}
        bay = {"rooms": [room], "walls": [{"side": "lid"}], "tolerance_mm": 0.4}
        answer = fit_of(plan(gadget={"bay": bay}, cell=cell, boards=[]))
        assert (answer.fits, answer.size_mm[0]) == (fits, pytest.approx(52 - lean)), lean
    with pytest.raises(ValueError, match="leave less than half"):
        plan(gadget={"bay": {"rooms": [{"size_mm": [52, 40, 9], "narrows_mm": 21}]}})
