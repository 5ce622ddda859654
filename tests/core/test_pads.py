"""Pads at their places: on the hook-up, and as a board lies in the bay."""

import cmath
import itertools

import pytest

from builders import CELL, plan
from pocketspark.core.chain import Chain
from pocketspark.core.fit.placing import fit_of
from pocketspark.core.hookup.hookup import hook_up
from pocketspark.core.kinds.board_features import circuit_of
from pocketspark.core.wiring.drawing import draw
from pocketspark.core.wiring.laid import laid_wires
from pocketspark.core.wiring.laid_drawing import draw_as_laid
from pocketspark.parts import library

BOARDS = [part for kind in ("charger", "protection", "regulator") for part in library().of(kind)]
CHARGERS = [part.board.model_dump(mode="json") for part in library().of("charger")]
CONVERTERS = [part.board.model_dump(mode="json") for part in library().of("regulator")]


@pytest.mark.parametrize("part", BOARDS, ids=lambda part: part.id)
def test_every_board_of_the_library_has_each_pad_that_it_is_wired_by_and_on_itself(part):
    assert {pad.name for pad in part.board.pads} == set(circuit_of(part.board).pads)
    for pad in part.board.pads:
        assert all(0 <= at <= size for at, size in zip(pad.at_mm, part.board.outline_mm, strict=False))
    apart = [
        abs(complex(*one.at_mm) - complex(*other.at_mm)) for one, other in itertools.combinations(part.board.pads, 2)
    ]
    assert min(apart) >= 1.5  # common practice, no source: a pad that a wire goes to is 1.5 mm wide or more


@pytest.mark.parametrize("number", range(len(CHARGERS)))
def test_wires_of_two_nets_never_share_a_stretch_and_no_label_stands_on_another(number):
    boards = [CHARGERS[number], CONVERTERS[number % len(CONVERTERS)], CHARGERS[-1 - number]]
    drawing = draw(hook_up(Chain(plan(boards=boards), 0)))
    stretches = [
        (wire.net, *sorted(ends))
        for wire in drawing.wires
        for ends in itertools.pairwise(zip(wire.xs, wire.ys, strict=True))
    ]
    for (net, a0, a1), (other, b0, b1) in itertools.combinations(stretches, 2):
        for across, along in ((0, 1), (1, 0)):
            level = a0[across] == a1[across] == pytest.approx(b0[across]) == b1[across]
            assert net == other or not level or min(a1[along], b1[along]) - max(a0[along], b0[along]) <= 1e-6
    for part in drawing.parts:
        shown = [_span(pad) for pad in part.pads]
        for (left, right, y), (low, high, level) in itertools.combinations(shown, 2):
            assert right <= low or high <= left or abs(y - level) >= 2.0


def _span(pad):
    """How wide a label of 2.8 mm letters is, about."""
    wide = 1.6 * len(pad.label)
    left = pad.label_x - {"start": 0.0, "middle": wide / 2, "end": wide}[pad.label_anchor]
    return left, left + wide, pad.label_y


@pytest.mark.parametrize("regulator", CONVERTERS, ids=lambda board: board["name"])
def test_every_wire_that_is_made_ends_at_pads_that_are_there(regulator):
    """A charger with a step-up of its own was wired to a diode by the step-up's pads: three wires were never drawn."""
    for charger in CHARGERS:
        hookup = hook_up(Chain(plan(boards=[charger, regulator]), 0))
        assert {(wire.start, wire.end) for wire in draw(hookup).wires} == {(w.start, w.end) for w in hookup.wires}


def test_the_picture_as_it_lies_has_every_wire_between_what_is_placed_and_no_two_on_one_line():
    """Its places are the fit's, its back at the top; a wire to a pad begins in the box of that pad's part."""
    chain = Chain(plan(boards=[CHARGERS[0], CONVERTERS[2]], cell=CELL | {"size_mm": [5, 30, 40]}), 0)
    answer, hookup = fit_of(chain.project), hook_up(chain)
    drawn = draw_as_laid(chain, hookup, answer)
    assert {wire.letter for wire in drawn.wires} == {wire.letter for wire in draw(hookup).wires if not wire.present}
    for part in drawn.parts:
        lies = next(one for one in answer.placements if one.part == part.name)
        assert (part.x, part.y + part.height) == pytest.approx((lies.min_mm[0], drawn.height - lies.min_mm[1]))
    areas = {part.name: part for part in drawn.parts}
    for pad in drawn.pads:
        area = areas.get(hookup.parts.by_key[str(pad.name).split(".")[0]].name)
        assert area is None or (area.x <= pad.x <= area.x + area.width and area.y <= pad.y <= area.y + area.height)
    lines = {(wire.start_x, wire.start_y, wire.end_x, wire.end_y) for wire in drawn.wires}
    assert len(lines) == len(drawn.wires)
    assert draw_as_laid(chain, hookup, None) is None


@pytest.mark.parametrize("side", ["left", "right", "front", "back"])
def test_a_board_in_the_bay_has_its_pads_where_a_turn_of_it_puts_them(side):
    """A quarter turn is a product with i; turned over is the conjugate. 2 mm of its box are room for solder."""
    board = CHARGERS[0]
    pin = [{"part": board["name"], "side": side}]
    gadget = {"bay": {"rooms": [{"size_mm": [90, 80, 14]}], "walls": [{"side": side}]}}
    chain = Chain(plan(boards=[board], cell=CELL | {"size_mm": [5, 30, 40]}, gadget=gadget, pins=pin), 0)
    answer = fit_of(chain.project)
    lies = next(one for one in answer.placements if one.part == board["name"])
    assert lies.face_side == side
    # Amid the wall's side of its box: the middle of the edge that has the socket.
    edge = complex(*((a + b) / 2 for a, b in zip(lies.min_mm[:2], lies.max_mm[:2], strict=True)))
    edge += {"left": -1, "right": 1, "front": -1j, "back": 1j}[side] * (board["outline_mm"][0] + 2) / 2
    turned = cmath.exp(1j * cmath.pi / 2 * {"left": 0, "front": 1, "right": 2, "back": 3}[side])
    over = "parts down" in lies.turned
    due = {}
    for pad in board["pads"]:
        off = complex(pad["at_mm"][0], pad["at_mm"][1] - board["outline_mm"][1] / 2)
        due[pad["name"]] = edge + (off.conjugate() if over else off) * turned
    for wire in laid_wires(chain, hook_up(chain), answer):
        for pad, at in ((wire.wire.start, wire.start), (wire.wire.end, wire.end)):
            if pad.startswith("charger."):
                assert complex(*at) == pytest.approx(due[pad.split(".")[1]], abs=0.01)
