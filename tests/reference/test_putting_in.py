"""The order of putting in, of random documents: every way is walked by solids (manifold3d), in small steps."""

import pytest
from any_bay import document
from manifold3d import Manifold
from test_fit_documents import solid

from builders import board, judged, plan
from chances import EXAMPLES
from pocketspark.core.fit.placing import fit_of
from pocketspark.core.models import Project

DOCUMENTS = max(120, EXAMPLES // 20)
STEP_MM = 0.25
NOTHING_MM3 = 0.05


def way_in(part, blocking, size):
    """Straight up and out, or first aside by any number of steps along either axis."""
    low, high = list(part.min_mm), list(part.max_mm)

    def swept(axis, by):
        a, b = list(low), list(high)
        if by < 0:
            a[axis] += by
        else:
            b[axis] += by
        return solid(a, b)

    def free(body):
        return (body ^ blocking).volume() < NOTHING_MM3

    held = [axis for axis in (0, 1) if low[axis] < -1e-3 or high[axis] > size[axis] + 1e-3]
    if not held and free(swept(2, 500)):
        return True
    for axis in held or (0, 1):
        for way in (-1, 1):
            room = low[axis] if way < 0 else size[axis] - high[axis]
            for number in range(1, int(room / STEP_MM + 1e-6) + 1):
                by = way * number * STEP_MM
                if not free(swept(axis, by)):
                    break
                up_low, up_high = list(low), list(high)
                up_low[axis] += by
                up_high[axis] += by
                up_high[2] += 500
                if any(up_low[a] < -1e-3 or up_high[a] > size[a] + 1e-3 for a in held):
                    continue  # its nose is still in the wall
                if free(solid(up_low, up_high)):
                    return True
    return False


def the_case(answer, said, part):
    """What stands round a part; of a case with spaces that lie apart each is opened by itself, so nothing over it."""
    case = Manifold()
    for one in answer.solids:
        over_it = said["gadget"]["bay"].get("passages") and one.min_mm[2] > part.max_mm[2] - 1e-3
        if not over_it and not one.on_lid:
            case += solid(one.min_mm, one.max_mm)
    return case


def test_every_part_has_its_way_in_and_the_stuck_ones_have_none():
    whole = stuck = 0
    for seed in range(DOCUMENTS):
        answer = fit_of(Project.model_validate(document(seed)))
        if answer is None or answer.fits == "no":
            continue
        lying = {one.part: one for one in answer.placements}
        assert sorted((*answer.order, *answer.stuck)) == sorted(lying)
        said = document(seed)
        blocking = Manifold()
        bodies = {name: solid(one.min_mm, one.max_mm) for name, one in lying.items()}
        for name in answer.stuck:
            others = the_case(answer, said, lying[name])
            for other in answer.stuck:
                others += bodies[other] if other != name else Manifold()
            assert not way_in(lying[name], others, answer.size_mm), (seed, name)
        for name in answer.stuck:
            blocking += bodies[name]
        for name in answer.order:
            # A slide of less than a step is not walked here: then the part is let through.
            case = the_case(answer, said, lying[name])
            assert way_in(lying[name], blocking + case, answer.size_mm), (seed, name)
            blocking += bodies[name]
        whole += not answer.stuck
        stuck += bool(answer.stuck)
    print(f"{whole} go in one after another, in {stuck} something is stuck")
    assert whole > 5


# Two half shells: a socket with a nose in the wall comes out of it aside, or straight where the seam runs through its
# hole; what stands over the seam is held by no wall.
NOSE = {"kind": "type_c", "nose_mm": 1.5}


@pytest.mark.parametrize(("lid_depth", "stuck"), [(0, True), (9, True), (13.5, False)])
def test_in_half_shells_a_nose_is_free_where_the_seam_runs_through_its_hole(lid_depth, stuck):
    # So short that nothing moves aside: the nose would have to leave its hole first.
    charger = {"id": "b1", "name": "charger", "outline_mm": [24, 17, 4.2], "socket": NOSE, "charger": None}
    bay = {"rooms": [{"size_mm": [26, 40, 16]}], "walls": [{"side": "left"}], "wall_mm": 2, "lid_depth_mm": lid_depth}
    chosen = {
        "boards": [charger | {"protection": None}],
        "cell": None,
        "pins": [{"part": "charger", "at_mm": [-1.5, 9, 0.5]}],
    }
    bay["obstacles"] = [{"name": "post", "at_mm": [25.0, 15, 0], "size_mm": [1, 3, 16]}]
    answer = fit_of(plan(gadget={"bay": bay}, **chosen))
    assert answer.fits in ("yes", "too_close"), answer.conflict
    hole = next(hole for hole in answer.openings if str(hole.what) == "socket")
    assert ("charger" in answer.stuck) is stuck
    # The middle of the socket is 1.6 + 0.5 + 1.6 = 3.7 mm over the floor, more or less; its hole 3.7 mm high.
    assert ("comes apart across it" in str(hole.says)) is (answer.seam_mm is not None and answer.seam_mm < 6)


# A ledge over the whole front half of the bay, the cell pinned under it and a board filling what is open.
LEDGE = {"name": "ledge", "at_mm": [0, 0, 10], "size_mm": [60, 40, 2], "state": "keep"}


@pytest.mark.parametrize(("width", "stuck"), [(78, False), (60, True)])
def test_a_cell_under_a_ledge_goes_in_only_where_there_is_room_to_slide(width, stuck):
    bay = {"rooms": [{"size_mm": [60, width, 20]}], "obstacles": [LEDGE], "walls": [{"side": "lid"}]}
    pins = [{"part": "Pouch 503450", "at_mm": [2, 2, 1]}]
    found = judged(gadget={"bay": bay}, boards=[board()], pins=pins)
    codes = {one.code for one in found.findings}
    answer = fit_of(plan(gadget={"bay": bay}, boards=[board()], pins=pins))
    assert answer.fits in ("yes", "too_close")
    assert ("Pouch 503450" in answer.stuck) is stuck
    assert ("fit.no_way_in" in codes) is stuck
