"""In which order the parts go in: each by a straight way down from the open lid, or down and then aside.

Above the seam of a deep lid, or of two half shells, no wall of the case is in the way, and no nose is in its hole.

Found backwards: what can come out first goes in last. Boxes stand for all parts, round ones too, so that a way that is
found is there; one that is not may still be found by hand.
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from pocketspark.core.fit.answer import FitAnswer, Placement, SolidBox

# Faces that touch do not hold one another.
_TOUCH_MM = 1e-3
_OUT_MM = 1000.0

Corner = tuple[float, float, float]
Block = tuple[Corner, Corner]


@dataclass(frozen=True)
class PuttingIn:
    """`order`: the parts as they go in, by name. `stuck`: those that no way is found for."""

    order: tuple[str, ...]
    stuck: tuple[str, ...] = ()


def putting_in(answer: FitAnswer) -> PuttingIn:
    """For an answer with placements; in a round bay along the tube, else through the open lid."""
    solids = [block for solid in answer.solids if not solid.on_lid and (block := _below_the_seam(solid, answer))]
    left = sorted(answer.placements, key=lambda one: (one.min_mm[2], one.min_mm[0]))
    out: list[str] = []
    while left:
        # The highest first: hands take what lies on top.
        free = next((one for one in reversed(left) if _comes_out(one, left, solids, answer)), None)
        if free is None:
            return PuttingIn(tuple(reversed(out)), tuple(one.part for one in left))
        left.remove(free)
        out.append(free.part)
    return PuttingIn(tuple(reversed(out)))


def _comes_out(one: Placement, left: Sequence[Placement], solids: Sequence[Block], answer: FitAnswer) -> bool:
    block = _block(one.min_mm, one.max_mm)
    # Of a case with several spaces each is opened by itself: nothing of the case lies over them then.
    case = [solid for solid in solids if not (answer.passages and solid[0][2] > block[1][2] - _TOUCH_MM)]
    blocking = [_block(other.min_mm, other.max_mm) for other in left if other is not one] + case
    if answer.tube_mm:
        return any(_is_free(_swept(block, 0, way * _OUT_MM), blocking) for way in (-1, 1))
    length, width, _ = answer.size_mm
    in_a_wall = [axis for axis, end in ((0, length), (1, width)) if _sticks_out(block, axis, end)]
    if _lies_in_the_seam(one, answer):
        in_a_wall = []
    # A nose in its hole comes out of that first; over ridges and into rounded corners nothing is taken to slide.
    straight = [] if in_a_wall else [(0, 0.0)]
    return any(
        _is_free(_swept(block, axis, by), blocking) and _is_free(_swept(_moved(block, axis, by), 2, _OUT_MM), blocking)
        for axis, by in (*straight, *_slides(block, blocking, (length, width)))
        if all(axis == held for held in in_a_wall) and (axis == 0 or by == 0.0 or not answer.shapes)
    )


def _below_the_seam(solid: SolidBox, answer: FitAnswer) -> Block | None:
    """What is no bay is the case: from the seam up it goes up with the lid."""
    low, high = solid.min_mm, solid.max_mm
    if answer.seam_mm is None or solid.state != "outside":
        return _block(low, high)
    return _block(low, (*high[:2], min(high[2], answer.seam_mm))) if low[2] < answer.seam_mm else None


def _lies_in_the_seam(one: Placement, answer: FitAnswer) -> bool:
    """Its holes open upwards once the lid is off: the seam runs through their middle, or below that."""
    if answer.seam_mm is None:
        return False
    holes = [hole.up_mm - answer.wall_mm for hole in answer.openings if hole.part == one.part]
    return one.min_mm[2] >= answer.seam_mm - _TOUCH_MM or all(up >= answer.seam_mm - _TOUCH_MM for up in holes)


def _sticks_out(block: Block, axis: int, end: float) -> bool:
    return block[0][axis] < -_TOUCH_MM or block[1][axis] > end + _TOUCH_MM


def _slides(block: Block, blocking: Sequence[Block], size: tuple[float, float]) -> Iterator[tuple[int, float]]:
    """Along which axis and how far it could go aside first: until it is clear of something, or at the wall."""
    low, high = block
    for axis in (0, 1):
        clear = [other_high[axis] - low[axis] for _, other_high in blocking]
        clear += [other_low[axis] - high[axis] for other_low, _ in blocking]
        for by in sorted({-low[axis], size[axis] - high[axis], *clear}, key=abs):
            if -low[axis] - _TOUCH_MM <= by <= size[axis] - high[axis] + _TOUCH_MM:
                yield axis, by


def _swept(block: Block, axis: int, by: float) -> Block:
    low, high = block
    a, b = _moved(block, axis, by)
    return _block([min(x, y) for x, y in zip(low, a, strict=True)], [max(x, y) for x, y in zip(high, b, strict=True)])


def _moved(block: Block, axis: int, by: float) -> Block:
    low, high = list(block[0]), list(block[1])
    low[axis] += by
    high[axis] += by
    return _block(low, high)


def _is_free(block: Block, blocking: Sequence[Block]) -> bool:
    return not any(_meet(block, other) for other in blocking)


def _meet(one: Block, other: Block) -> bool:
    return all(min(b, d) - max(a, c) > _TOUCH_MM for a, b, c, d in zip(*one, *other, strict=True))


def _block(low: Sequence[float], high: Sequence[float]) -> Block:
    return (low[0], low[1], low[2]), (high[0], high[1], high[2])
