"""Random documents over the whole format: the fit's answer against a mixed-integer program that reads the document by
itself (bay_by_document.py), and every placement against exact boxes. chances.EXAMPLES / 20: how many documents."""

import copy
from collections import Counter

import pytest
from any_bay import document
from bay_by_document import clearance_of
from manifold3d import Manifold

from chances import EXAMPLES
from pocketspark.core.fit.placing import fit_of
from pocketspark.core.fit.remedies import remedies_for
from pocketspark.core.fit.sweep import largest
from pocketspark.core.models import Project

DOCUMENTS = max(60, EXAMPLES // 20)
BLOCKS = 12
# Of near-best placements one with shorter wires is taken: it has this much less at most.
NEAR_MM = 0.0501


@pytest.mark.parametrize("block", range(BLOCKS))
def test_same_answer_and_the_same_clearance(block):
    same = {"yes": 0, "no": 0}
    for seed in range(block, DOCUMENTS, BLOCKS):
        said = document(seed)
        answer, wanted = fit_of(Project.model_validate(said)), clearance_of(said)
        if answer is None:  # everything stays outside
            assert wanted is None or not said["builds"][0]["cell"], seed
            continue
        assert answer.fits == ("no" if wanted is None else "yes"), (seed, answer.doubts)
        assert answer.proven, seed
        same[answer.fits] += 1
        if wanted is not None:
            assert answer.clearance_mm == pytest.approx(wanted, abs=NEAR_MM), seed
    assert sum(same.values()) > 0


def solid(low, high):
    return Manifold.cube([b - a for a, b in zip(low, high, strict=True)]).translate(list(low))


def free_space(bay):
    """The rooms less what stands in them, by a solid kernel (manifold3d), from the bay's lowest corner."""
    corner = [min(room["at_mm"][axis] for room in bay["rooms"]) for axis in range(3)]
    top = max(room["at_mm"][2] + room["size_mm"][2] for room in bay["rooms"])
    free = Manifold()
    for room in bay["rooms"]:
        low = [at - start for at, start in zip(room["at_mm"], corner, strict=True)]
        high = [at + size for at, size in zip(low, room["size_mm"], strict=True)]
        if room["at_mm"][2] + room["size_mm"][2] > top - 1e-6:
            high[2] += bay.get("lid_raised_mm", 0)
        free += solid(low, high)
    for wall in bay["walls"]:
        free += cut_away(wall, free.bounding_box())
    for obstacle in bay["obstacles"]:
        if obstacle["state"] != "removed":
            low = [at - start for at, start in zip(obstacle["at_mm"], corner, strict=True)]
            low[2] += bay.get("lid_raised_mm", 0) if obstacle.get("on_lid") else 0
            free -= solid(low, [at + size for at, size in zip(low, obstacle["size_mm"], strict=True)])
    return free


WALLS = {"left": (0, -1), "right": (0, 1), "front": (1, -1), "back": (1, 1), "floor": (2, -1), "lid": (2, 1)}


def cut_away(wall, bounds):
    """What is taken of a wall from inside, over all of its face."""
    axis, way = WALLS[wall["side"]]
    low, high = list(bounds[:3]), list(bounds[3:])
    at = high[axis] if way > 0 else low[axis]
    low[axis], high[axis] = sorted((at, at + way * (wall.get("thinned_mm") or 1e-6)))
    return solid(low, high)


def without_its_nose(one, wall_mm):
    """The box of a part; its nose goes into its hole, and what shows of it is the other checks' affair."""
    low, high = list(one.min_mm), list(one.max_mm)
    if one.face_side:
        axis, way = WALLS[one.face_side]
        nose = min(one.nose_mm, wall_mm)
        low[axis], high[axis] = (low[axis] + nose, high[axis]) if way < 0 else (low[axis], high[axis] - nose)
    return solid(low, high)


def test_no_part_is_in_a_wall_or_in_another():
    checked = 0
    for seed in range(2000, 2000 + DOCUMENTS):
        said = document(seed)
        answer = fit_of(Project.model_validate(said))
        if answer is None or answer.fits != "yes":
            continue
        free = free_space(said["gadget"]["bay"])
        for one in answer.placements:
            part = without_its_nose(one, said["gadget"]["bay"]["wall_mm"])
            assert (part - free).volume() == pytest.approx(0, abs=1e-2), (seed, one.part)
            free -= part
            checked += 1
    assert checked > DOCUMENTS / 2


def in_its_wall(bay, size, hole):
    """The hole as a solid in the bay's own axes: it is told on the outer face, as it is seen from outside."""
    axis, way = WALLS[hole.side]
    right, up = {0: (1, 2), 1: (0, 2), 2: (0, 1)}[axis]
    turned = {"left": True, "back": True}.get(hole.side, False), hole.side == "floor"
    low, high = [0.0] * 3, [0.0] * 3
    wall = bay["wall_mm"]
    low[axis], high[axis] = (-wall, 0.0) if way < 0 else (size[axis], size[axis] + wall)
    for other, mirrored, at, wide in (
        (right, turned[0], hole.across_mm, hole.width_mm),
        (up, turned[1], hole.up_mm, hole.height_mm),
    ):
        middle = at - wall
        middle = size[other] - middle if mirrored else middle
        low[other], high[other] = middle - wide / 2, middle + wide / 2
    return solid(low, high)


def may_be_opened(bay, size, side):
    """Where this wall may be, as a solid: its stretch, and what stays at the edges of the outer face."""
    axis, way = WALLS[side]
    stated = next((wall for wall in bay["walls"] if wall["side"] == side), None)
    if stated is None:
        return Manifold()
    wall = bay["wall_mm"]
    past = wall - min(1.5, wall)
    low, high = [-past] * 3, [mm + past for mm in size]
    low[axis], high[axis] = (-wall, 0.0) if way < 0 else (size[axis], size[axis] + wall)
    if axis != 2:
        for other, least, most in ((1 - axis, "from_mm", "to_mm"), (2, "low_mm", "high_mm")):
            low[other] = max(low[other], -1e9 if stated.get(least) is None else stated[least])
            high[other] = min(high[other], 1e9 if stated.get(most) is None else stated[most])
    return solid([at - 0.011 for at in low], [at + 0.011 for at in high])


def test_every_hole_is_wholly_where_its_wall_may_be_opened():
    """Sockets, lamps, levers and leads: the whole hole, and no hole but in such a wall."""
    seen = Counter()
    for seed in range(3000, 3000 + DOCUMENTS):
        said = document(seed)
        bay = said["gadget"]["bay"]
        if seed % 3 == 0 and len(said["builds"][0]["boards"]) > 1:
            said["builds"][0]["outside"] = [said["builds"][0]["boards"][-1]["name"]]
        answer = fit_of(Project.model_validate(said))
        if answer is None or answer.fits != "yes":
            continue
        behind = set()
        for hole in answer.openings:
            cut = in_its_wall(bay, answer.size_mm, hole)
            assert (cut - may_be_opened(bay, answer.size_mm, hole.side)).volume() == pytest.approx(0, abs=1e-3), seed
            assert cut.bounding_box() == pytest.approx((*hole.min_mm, *hole.max_mm), abs=1e-3), seed
            seen[str(hole.what)] += 1
            axis, way = WALLS[hole.side]
            inwards = [0.0, 0.0, 0.0]
            inwards[axis] = -way * 2.0 if bay["wall_mm"] >= 2 else -way * bay["wall_mm"]
            reach = cut.translate(inwards) + cut.translate([2 * mm if bay["wall_mm"] < 2 else mm for mm in inwards])
            cells = [one for one in answer.placements if one.kind == "cell" and str(hole.what) == "socket"]
            for one in cells:
                box = (solid(one.min_mm, one.max_mm) ^ reach).bounding_box()
                shared = [most - least for least, most in zip(box[:3], box[3:], strict=True)]
                if all(mm > (1e-3 if number == axis else 1.0) for number, mm in enumerate(shared)):
                    behind.add(one.part)
        assert set(answer.behind_plugs) == behind, seed
        seen["behind a plug"] += len(behind)
    assert min(seen[what] for what in ("socket", "lamp", "wire")) > 0, seen


SMALLER = {"thinner": 0, "slimmer": 0, "narrower": 1, "shorter": 2}


def with_smaller_cell(said, what, mm):
    """The document with the cell that a remedy wants, bought."""
    mended = copy.deepcopy(said)
    size = mended["builds"][0]["cell"]["size_mm"]
    place = {"slimmer": 0, "shorter": 1}[what] if len(size) == 2 else SMALLER[what]
    size[place] = round(size[place] - mm, 4)
    return mended


def with_tenth_less(said, remedy):
    """The document with a remedy of this kind, a tenth of a millimetre short of what it asks for; None: no length."""
    mended = copy.deepcopy(said)
    bay = mended["gadget"]["bay"]
    if str(remedy.what) == "lid":
        bay["lid_raised_mm"] = round(bay.get("lid_raised_mm", 0) + remedy.mm - 0.1, 4)
    elif str(remedy.what) == "thinned":
        wall = next(wall for wall in bay["walls"] if wall["side"] == remedy.subject)
        wall["thinned_mm"] = round(wall.get("thinned_mm", 0) + remedy.mm - 0.1, 4)
    elif remedy.what in SMALLER:
        mended = with_smaller_cell(said, remedy.what, round(remedy.mm - 0.1, 4))
    else:
        return None
    return mended


@pytest.mark.parametrize("block", range(4))
def test_every_remedy_lets_it_in_and_a_tenth_less_does_not(block):
    """Applied, or the smaller cell bought, and asked again: a yes that is confirmed, by the independent program too."""
    tried, failed = Counter(), []
    for seed in range(4000 + block, 4000 + DOCUMENTS, 4):
        said = document(seed)
        said["gadget"]["bay"]["tolerance_mm"] = tolerance = (seed % 3) * 0.15
        project = Project.model_validate(said)
        answer = fit_of(project)
        if answer is None or answer.fits != "no":
            continue
        for remedy in remedies_for(project):
            if remedy.edits:
                mended = project.apply(remedy.edits).model_dump(mode="json")
            elif remedy.what in SMALLER:
                mended = with_smaller_cell(said, remedy.what, remedy.mm)
            else:
                continue  # another board to buy
            after, wanted = fit_of(Project.model_validate(mended)), clearance_of(mended)
            tried[remedy.what] += 1
            if after is not None and (after.fits != "yes" or wanted is None):
                failed.append((seed, remedy.says, after.fits, after.clearance_mm, wanted))
            less = with_tenth_less(said, remedy)
            left = None if less is None else clearance_of(less)
            if left is not None and left >= tolerance + 1e-3:
                failed.append((seed, remedy.says, "a tenth less is enough", left))
    print(f"{dict(tried)} remedies, {len(failed)} of them wrong")
    assert failed == []
    assert sum(tried.values()) > DOCUMENTS / 20


GROWS = {"thickness": 0, "diameter": 0, "width": 1, "length": 2}


@pytest.mark.parametrize("tube", [False, True])
def test_a_cell_as_much_larger_as_is_told_goes_in_and_a_twentieth_more_does_not(tube):
    """Bought and asked again; boxes by the independent program too. Beyond 60 mm nobody asks."""
    tried, late = Counter(), []
    for seed in range(7000, 7000 + DOCUMENTS // 4):
        said = document(seed, tube=tube, furnished=tube and seed % 2 == 0)
        tolerance = said["gadget"]["bay"].get("tolerance_mm", 0.3)
        project = Project.model_validate(said)
        if said["builds"][0].get("cell_count", 1) != len(project.builds[0].cells) or fit_of(project) is None:
            continue
        for told in largest(project):
            axis = min(GROWS[told.measure], len(said["builds"][0]["cell"]["size_mm"]) - 1)
            for more, goes_in in ((0.0, True), (0.05, False)):
                bought = with_larger_cell(said, axis, told.mm + more)
                answer = fit_of(Project.model_validate(bought))
                if goes_in:
                    assert answer.fits in ("yes", "not_certain"), (seed, told, answer.fits, answer.clearance_mm)
                    tried[told.measure] += 1
                elif told.mm < 50 and not tube:
                    left = clearance_of(bought)
                    assert left is None or left < tolerance + 2e-3, (seed, told, left)
                elif told.mm < 50 and answer.fits == "yes":
                    late.append((seed, told))
    print(dict(tried), late)
    # In a tube it is tried by halves, and seldom a larger one goes in where a smaller was not found to.
    assert len(late) <= 1 + sum(tried.values()) / 50
    assert min(tried.values()) > 0


def with_larger_cell(said, axis, mm):
    bought = copy.deepcopy(said)
    size = bought["builds"][0]["cell"]["size_mm"]
    size[axis] = round(size[axis] + mm, 4)
    return bought
