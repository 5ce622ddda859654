"""Printed parts of random builds against the parts as they lie, by solid intersection (manifold3d), and by where the
document puts the sockets; reloaded from their files and measured by trimesh."""

import io
from collections import Counter

import pytest
import trimesh
from any_bay import document
from manifold3d import Manifold
from test_fit_documents import free_space, solid

from builders import CELL, CHARGER, board, plan
from chances import EXAMPLES
from pocketspark.core.fit.placing import fit_of
from pocketspark.core.models import Project
from pocketspark.formats import printed_parts
from pocketspark.formats.printed_parts import NoSuchPrint, PrintSettings
from pocketspark.formats.solids import to_file, to_svg

SETTINGS = PrintSettings()
BUILDS = max(100, EXAMPLES // 20)
# Height of a socket's middle over its board, half the shells of Type-C, Micro-B and Mini-B; and the shells, mm.
SHELLS = {"type_c": (9.0, 3.2), "micro_b": (7.8, 2.8), "mini_b": (8.0, 3.9)}
# Volume that two solids may share by the rounding of a circle to corners, mm3.
NOTHING_MM3 = 0.05
# They sit where the old batteries sat, and are made for a tube with nothing else in it: held against the cell alone.
BY_THE_OLD_BATTERIES = ("sleeve", "front-spacer", "rear-spacer")
AXIS = {"left": (0, -1), "right": (0, 1), "front": (1, -1), "back": (1, 1), "floor": (2, -1), "lid": (2, 1)}


def lying(placement):
    """What takes room: of a nose in its hole, further down, only the shell of the socket."""
    low, high = list(placement.min_mm), list(placement.max_mm)
    if placement.face_side and placement.nose_mm:
        axis, way = AXIS[placement.face_side]
        if way < 0:
            low[axis] += placement.nose_mm
        else:
            high[axis] -= placement.nose_mm
    if placement.face_side and placement.stop_mm:
        # What is kept for a stop is where the cradle has its own.
        axis, way = AXIS[placement.face_side]
        if way < 0:
            high[axis] -= placement.stop_mm
        else:
            low[axis] += placement.stop_mm
    take_off_cradle(placement, low, high)
    size = [b - a for a, b in zip(low, high, strict=True)]
    if placement.round:
        axis = max(range(3), key=lambda a: size[a] if sum(abs(size[a] - s) < 1e-6 for s in size) < 2 else -1)
        across = next(size[a] for a in range(3) if a != axis)
        rod = Manifold.cylinder(size[axis], across / 2, across / 2, 96)
        rod = rod.rotate([(0, 90, 0), (-90, 0, 0), (0, 0, 0)][axis])
        middle = [(a + b) / 2 for a, b in zip(low, high, strict=True)]
        middle[axis] = low[axis]
        return rod.translate(middle)
    return solid(low, high)


def take_off_cradle(placement, low, high):
    """Under the board, and with 0.15 mm of slack on either side of it."""
    if placement.cradle_mm:
        across = AXIS[placement.face_side][0] == 0 if placement.face_side else "along" in placement.turned
        low[across] += placement.cradle_mm + 0.15
        high[across] -= placement.cradle_mm + 0.15
        low[2] += placement.cradle_mm


def plugs(placement, part, answer):
    """Where a plug's shell may come from: either flat side of the board may be its underside."""
    kind = part["socket"]["kind"]
    wide, high = SHELLS[kind]
    axis, way = AXIS[placement.face_side]
    low, top = list(placement.min_mm), list(placement.max_mm)
    take_off_cradle(placement, low, top)
    size = [b - a for a, b in zip(low, top, strict=True)]
    across = [a for a in range(3) if a != axis]
    ways = []
    for w, h in (across, across[::-1]):
        if abs(size[w] - part["outline_mm"][1]) > 0.01:
            continue
        for up in (part["pcb_mm"] + high / 2, size[h] - part["pcb_mm"] - high / 2):
            a, b = [0.0] * 3, [0.0] * 3
            ends = top[axis] - placement.nose_mm, low[axis] + placement.nose_mm
            a[axis], b[axis] = (ends[0], answer.size_mm[axis] + 25) if way > 0 else (-25, ends[1])
            middle = (low[w] + top[w]) / 2
            a[w], b[w] = middle - wide / 2, middle + wide / 2
            a[h], b[h] = low[h] + up - high / 2, low[h] + up + high / 2
            ways.append(solid(a, b))
    return ways


def shared(one, other):
    return (one ^ other).volume()


def require_it_serves(name, made, said, answer):
    for placement in answer.placements:
        assert shared(made, lying(placement)) < NOTHING_MM3, (name, placement.part)
        part = next((b for b in said["builds"][0]["boards"] if b["name"] == placement.part), None)
        if placement.face_side and part and part["socket"] and said["builds"][0]["input"]["kind"] == "board_socket":
            assert min(shared(made, plug) for plug in plugs(placement, part, answer)) < NOTHING_MM3, (name, part)


def require_the_same_turned_over(name, made):
    """The part on the bed, turned back, is the part in its place: a mirror image is not."""
    bed = printed_parts.on_the_bed(name, made)
    back = bed.rotate([-angle for angle in printed_parts.PRINTS[name].turn])
    at, wanted = back.bounding_box(), made.bounding_box()
    back = back.translate([w - a for a, w in zip(at[:3], wanted[:3], strict=True)])
    assert (back - made).volume() + (made - back).volume() < 1e-3 * made.volume()
    assert bed.bounding_box()[2] == pytest.approx(0, abs=1e-6)


def prints_of(said):
    """Every part that this build has a use for: its solid, or why there is none."""
    project = Project.model_validate(said)
    answer = fit_of(project)
    for name in printed_parts.prints_of(project, 0, answer):
        if name in BY_THE_OLD_BATTERIES:
            continue
        try:
            yield name, printed_parts.in_place(name, project, 0, SETTINGS), answer
        except NoSuchPrint as error:
            yield name, str(error), answer


@pytest.mark.parametrize("style", ["inside", "outside_pack"])
def test_what_is_printed_keeps_clear_of_everything_and_serves_its_sockets(style):
    count = Counter()
    for seed in range(BUILDS):
        said = document(seed)
        said["builds"][0]["style"] = style
        for first in said["builds"][0]["boards"][:1]:
            first["charger"] = CHARGER
        if style == "outside_pack":
            said["builds"][0]["pins"] = []
        for name, made, answer in prints_of(said):
            if isinstance(made, str):
                assert made[0].islower()
                assert len(made) > 30
                count[name, "refused"] += 1
                continue
            count[name, "made"] += 1
            require_it_serves(name, made, said, answer)
            require_the_same_turned_over(name, made)
            assert len([piece for piece in made.decompose() if piece.volume() > 1e-6]) == 1
            if style == "inside":
                require_it_stays_in_the_bay(name, made, said, answer)
    print(dict(count))
    made = {name for name, what in count if what == "made"}
    assert made == ({"lid", "cradle"} if style == "inside" else {"box", "box-lid", "cradle"})
    assert all(count[name, "made"] > 3 for name in made)


def require_it_stays_in_the_bay(name, made, said, answer):
    """Below the lid it is inside what is free: not in a rib, nor in the shell."""
    length, width, top = answer.size_mm
    below = made ^ solid((-50, -50, -50), (length + 50, width + 50, top))
    assert (below - free_space(said["gadget"]["bay"])).volume() < NOTHING_MM3, name


def test_shells_like_a_battery_hold_what_lies_in_them():
    made_in_all = 0
    for diameter in (6.0, 7.4, 9.6):
        for boards in ([], [board(socket={"kind": "micro_b"}) | {"outline_mm": [14, 7, 3.8]}]):
            cell = {"name": "thin", "form": "round", "size_mm": [diameter, 30], "capacity_ah": 0.2}
            supply = {"battery": "LR6", "series": 2}
            for style in ("stand_in", "dummy_cell"):
                said = plan(cell=cell, boards=boards, style=style, gadget={"supply": supply}).model_dump(mode="json")
                for name, made, answer in prints_of(said):
                    if isinstance(made, str) or not name.startswith("dummy"):
                        continue
                    made_in_all += 1
                    for placement in answer.placements:
                        assert shared(made, lying(placement)) < NOTHING_MM3
                        if name == "dummy":  # it comes in from the right end
                            way = Manifold.hull(lying(placement) + lying(placement).translate((80, 0, 0)))
                            assert shared(made, way) < NOTHING_MM3
                    require_the_same_turned_over(name, made)
                    x0, y0, _, x1, y1, _ = made.bounding_box()
                    assert (y1 - y0) < 14.5  # an AA cell is 14.5 mm at most (IEC 60086-2)
                    assert x1 - x0 < 50.5
    assert made_in_all >= 3


# Lengths of the old batteries: IEC 60086-2, from memory.
@pytest.mark.parametrize(
    ("battery", "count", "tube", "cell", "stack"),
    [("LR14", 2, 26.2, (18.4, 65), 100), ("LR20", 1, 34.0, (10.4, 44), 61.5), ("LR6", 1, 15, (10, 44), 50.5)],
)
def test_a_sleeve_and_its_spacers_carry_the_cell_where_the_old_batteries_were(battery, count, tube, cell, stack):
    bay = {"rooms": [], "tube": {"diameter_mm": tube, "length_mm": stack + 5}}
    gadget = {"bay": bay, "supply": {"battery": battery, "series": count}}
    project = plan(gadget=gadget, cell=CELL | {"form": "round", "size_mm": cell}, boards=[])
    names = ("sleeve", "front-spacer", "rear-spacer")
    sleeve, front, rear = (printed_parts.in_place(name, project, 0, SETTINGS) for name in names)
    # The cell stands on the front spacer, in the middle of the sleeve: read off what was made.
    x0, y0, _, x1, y1, _ = sleeve.bounding_box()
    length = x1 - x0
    ends_at = front.bounding_box()[3]
    middle = (y0 + y1) / 2
    rod = Manifold.cylinder(cell[1], cell[0] / 2, cell[0] / 2, 96).rotate((0, 90, 0))
    rod = rod.translate((ends_at, middle, middle))
    solids = [sleeve, front, rear, rod]
    for number, one in enumerate(solids):
        for other in solids[number + 1 :]:
            assert shared(one, other) < NOTHING_MM3
    x0, y0, _, x1, y1, _ = (sleeve + front + rear + rod).bounding_box()
    assert x1 - x0 == pytest.approx(stack, abs=0.02)  # button and spring meet what they met
    assert y1 - y0 < tube
    sx0, *_, sx1, _, _ = sleeve.bounding_box()
    assert sx1 - sx0 < stack  # the spring still presses
    # A brass screw goes right through, from contact to cell.
    screw = Manifold.cylinder(stack, 1.5, 1.5, 48).rotate((0, 90, 0)).translate((0, middle, middle))
    assert shared(front + rear, screw) < NOTHING_MM3
    # Never a solid lump: no more than half of a thick ring is plastic.
    lump = 3.1416 / 4 * ((y1 - y0) ** 2 - cell[0] ** 2) * length
    if y1 - y0 - cell[0] > 10:
        assert sleeve.volume() < 0.6 * lump


@pytest.mark.parametrize("kind", ["stl", "3mf"])
@pytest.mark.parametrize("style", ["inside", "outside_pack"])
def test_files_are_watertight_and_true_to_size(style, kind):
    bay = {"rooms": [{"size_mm": [75, 45, 32]}], "walls": [{"side": "left"}], "wall_mm": 2}
    said = plan(gadget={"bay": bay}, boards=[board(socket={"kind": "type_c"})], style=style).model_dump(mode="json")
    count = 0
    for name, made, _ in prints_of(said):
        assert not isinstance(made, str), made
        bed = printed_parts.on_the_bed(name, made)
        mesh = trimesh.load(io.BytesIO(to_file(bed, kind)), file_type=kind, force="mesh")
        assert mesh.is_watertight
        x0, y0, z0, x1, y1, z1 = bed.bounding_box()
        assert mesh.extents == pytest.approx([x1 - x0, y1 - y0, z1 - z0], abs=0.01)
        assert mesh.volume == pytest.approx(bed.volume(), rel=1e-3)
        assert to_svg(bed).count("<path") == 2
        count += 1
    assert count >= 1


def test_no_sleeve_fills_a_tube_in_which_something_else_is():
    cell, supply = CELL | {"form": "round", "size_mm": [18.4, 65]}, {"battery": "LR14", "series": 2}
    tube = {"rooms": [], "tube": {"diameter_mm": 26.2, "length_mm": 105}}
    rib = {"name": "rib", "at_mm": [90, 12, 0], "size_mm": [5, 2, 2], "state": "keep"}
    for bay, boards, names in (
        (tube, [], ()),
        (tube, [{"name": "charger", "outline_mm": [20, 12, 4]}], ("charger",)),
        (tube | {"obstacles": [rib]}, [], ("rib",)),
    ):
        project = plan(gadget={"bay": bay, "supply": supply}, cell=cell, boards=boards)
        assert fit_of(project).fits == "yes"
        assert ("sleeve" in printed_parts.prints_of(project, 0, fit_of(project))) == (not names)
        for name in names:
            with pytest.raises(NoSuchPrint, match=f"it also holds {name}"):
                printed_parts.in_place("sleeve", project, 0, SETTINGS)


def test_room_is_kept_for_a_cradle_that_is_asked_for():
    # By hand: 17 mm of board, 2 x (1.2 + 0.15) of cradle, 2 x 0.5 of air and 2 x 0.3 of calipers' doubt: 21.3 mm.
    charger = board(socket={"kind": "type_c"})
    for wide, cradle, fits in ((18.7, 0.0, "yes"), (21.2, 1.2, "too_close"), (21.4, 1.2, "yes")):
        bay = {"rooms": [{"size_mm": [34, wide, 12]}], "walls": [{"side": "left"}], "tolerance_mm": 0.3}
        project = plan(
            gadget={"bay": bay}, cell=CELL | {"size_mm": None}, boards=[charger], cradle_mm=cradle, socket_stop_mm=2.0
        )
        assert fit_of(project).fits == fits, (wide, cradle)
    made = printed_parts.in_place("cradle", project, 0, SETTINGS)
    _, y0, z0, _, y1, _ = made.bounding_box()
    assert (y1 - y0, z0) == (pytest.approx(17 + 2 * 1.35, abs=0.01), 0.0)
    lies = fit_of(project).placements[0]
    assert (lies.min_mm[2], lies.max_mm[2]) == (0.0, pytest.approx(1.2 + 4.2))


def test_what_cannot_be_made_says_why():
    project = plan(boards=[board(socket={"kind": "type_c"})])
    for name, match in (("dummy", "battery"), ("box", "style"), ("sleeve", "round cell")):
        with pytest.raises(NoSuchPrint, match=match):
            printed_parts.in_place(name, project, 0, SETTINGS)
    tight = plan(gadget={"bay": {"rooms": [{"size_mm": [20, 10, 5]}]}}, boards=[board(socket={"kind": "type_c"})])
    with pytest.raises(NoSuchPrint, match="no certain place"):
        printed_parts.in_place("lid", tight, 0, SETTINGS)


def test_the_rim_of_a_lid_goes_into_rounded_corners_and_no_cradle_stands_on_troughs():
    for corner in (0.0, 3.0, 8.0):
        room = {"size_mm": [75, 45, 32], "corner_mm": corner}
        bay = {"rooms": [room], "walls": [{"side": "left"}], "wall_mm": 2}
        lid = printed_parts.in_place("lid", plan(gadget={"bay": bay}, boards=[board()]), 0, SETTINGS)
        below = lid ^ solid((-50, -50, 0), (150, 150, 32))
        corners = [[x, y] for x in (corner, 75 - corner) for y in (corner, 45 - corner)]
        rods = [
            Manifold.cylinder(40, max(corner, 1e-3), max(corner, 1e-3), 256).translate((x, y, -4)) for x, y in corners
        ]
        whole = sum(rods[1:], rods[0]).hull()
        assert below.volume() > 100
        assert (below - whole).volume() < NOTHING_MM3, corner
    troughs = {"rooms": [{"size_mm": [75, 45, 32], "troughs": 3}], "walls": [{"side": "left"}], "wall_mm": 2}
    with pytest.raises(NoSuchPrint, match="troughs"):
        printed_parts.in_place("cradle", plan(gadget={"bay": troughs}, boards=[board()]), 0, SETTINGS)
