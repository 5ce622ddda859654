"""Random packing questions, tight enough that about half of them do not go in."""

import itertools
import random

from pocketspark.core.fit.search import Block, Item, LinearLength, Packing, Pose

GAP = 0.5


def question(seed, parts=4, least=0.0, density=None):
    """Parts of a few to 30 mm in every way round, in a box sized so that it may or may not do, with a post in some."""
    rng = random.Random(seed)
    sizes = [tuple(round(rng.uniform(4, 30), 1) for _ in range(3)) for _ in range(parts)]
    sizes.sort(key=lambda size: -size[0] * size[1] * size[2])
    volume = sum(a * b * c for a, b, c in sizes)
    fill = density or rng.uniform(0.38, 0.62)
    side = (volume / fill) ** (1 / 3)
    box = (round(side * rng.uniform(1.0, 1.5), 1), round(side, 1), round(side / rng.uniform(1.0, 1.4), 1))
    blocks = ()
    if rng.random() < 0.4:
        post = Block("post", _at(box[0] * 0.6, 0, 0), _at(box[0] * 0.6 + 3, 4, box[2] * 0.7))
        blocks = (post,)
    items = tuple(Item(f"part {i}", _poses(size, box)) for i, size in enumerate(sizes))
    gap = LinearLength(GAP, 1.0)
    return Packing(
        items,
        blocks,
        tuple(tuple(gap for _ in items) for _ in items),
        tuple(tuple(gap for _ in blocks) for _ in items),
        least=least,
        most=60.0,
    )


def _at(x, y, z):
    return LinearLength(x), LinearLength(y), LinearLength(z)


def _poses(size, box):
    """Every way round; a wall keeps the same clearance as a neighbour."""
    ways = sorted(set(itertools.permutations(size)))
    return tuple(
        Pose(
            str(way),
            _at(*way),
            ((LinearLength(GAP, 1.0),),) * 3,
            tuple((LinearLength(b - w - GAP, -1.0),) for w, b in zip(way, box, strict=True)),
        )
        for way in ways
    )
