"""Random packing questions for the bench, tight enough that about half of them do not go in."""

import itertools
import random

from pocketspark.core.fit.packing import Block, Bounds, Item, LinearLength, Packing, Pose

GAP = 0.5
Lengths = tuple[LinearLength, LinearLength, LinearLength]
Size = tuple[float, ...]


def question(seed: int, parts: int = 4, least: float = 0.0, density: float | None = None) -> Packing:
    """Parts of a few to 30 mm in every way round, in a box sized so that it may or may not do, with a post in some."""
    rng = random.Random(seed)
    sizes: list[Size] = [tuple(round(rng.uniform(4, 30), 1) for _ in range(3)) for _ in range(parts)]
    sizes.sort(key=lambda size: -size[0] * size[1] * size[2])
    volume = sum(a * b * c for a, b, c in sizes)
    fill = density or rng.uniform(0.38, 0.62)
    side = (volume / fill) ** (1 / 3)
    box = (round(side * rng.uniform(1.0, 1.5), 1), round(side, 1), round(side / rng.uniform(1.0, 1.4), 1))
    blocks: tuple[Block, ...] = ()
    if rng.random() < 0.4:
        blocks = (Block("post", _at(box[0] * 0.6, 0, 0), _at(box[0] * 0.6 + 3, 4, box[2] * 0.7)),)
    items = tuple(Item(f"part {i}", _poses(size, box)) for i, size in enumerate(sizes))
    gap = LinearLength(GAP, 1.0)
    item_gap = tuple(tuple(gap for _ in items) for _ in items)
    block_gap = tuple(tuple(gap for _ in blocks) for _ in items)
    return Packing(items, blocks, item_gap, block_gap, least=least, most=60.0)


def _at(x: float, y: float, z: float) -> Lengths:
    return LinearLength(x), LinearLength(y), LinearLength(z)


def _poses(size: Size, box: Size) -> tuple[Pose, ...]:
    """Every way round; a wall keeps the same clearance as a neighbour."""
    near: Bounds = (LinearLength(GAP, 1.0),)
    poses = []
    for x, y, z in sorted(set(itertools.permutations(size))):
        far_x, far_y, far_z = ((LinearLength(b - w - GAP, -1.0),) for w, b in zip((x, y, z), box, strict=True))
        poses.append(Pose(f"{x} x {y} x {z}", _at(x, y, z), (near, near, near), (far_x, far_y, far_z)))
    return tuple(poses)
