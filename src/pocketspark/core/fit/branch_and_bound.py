"""The search: the best placement, or proof that there is none; and what stands in the way. Compiled in `kernel.py`."""

from collections.abc import Sequence
from typing import TYPE_CHECKING

from pocketspark.core.fit.packing import FIRST_NODES, NOTHING, Answer, Packing

if TYPE_CHECKING:
    from pocketspark.core.fit.kernel import Found


def get_ready() -> None:
    """Have the search compiled, or what was compiled and kept loaded, before anybody waits for it."""
    search(Packing((), (), (), ()))


def search(question: Packing, solutions: int = 1) -> Answer:
    """The best placement; with `solutions` above 1 also near-best others, within 0.05 of it."""
    # Only here: it takes a second to be there, for which nobody waits who asks for no fit.
    from pocketspark.core.fit.kernel import best
    from pocketspark.core.fit.packing_arrays import packed

    found = best(packed(question.at_most(FIRST_NODES)), solutions)
    proven = found.nodes <= min(question.node_limit, FIRST_NODES)
    if not proven and not found.placements:
        second = None if question.circles else _by_constraints(question)
        if second and (second.placed or second.proven):
            return second
        if question.node_limit > FIRST_NODES:
            found = best(packed(question), solutions)
            proven = found.nodes <= question.node_limit
    return _answer(question, found, proven=proven)


def some_of_many(question: Packing, solutions: int, nodes: int) -> Answer:
    """So many placements of those that do, as far as they are met within so many nodes; nothing is proven by it."""
    from pocketspark.core.fit.kernel import best
    from pocketspark.core.fit.packing_arrays import packed

    return _answer(question, best(packed(question.at_most(nodes)), solutions), proven=False)


def _answer(question: Packing, found: "Found", *, proven: bool) -> Answer:
    from pocketspark.core.fit.packing_arrays import placed

    if not found.placements:
        return Answer(NOTHING, proven=proven, nodes=found.nodes)
    each = [placed(question, found, number, found.low[number]) for number in range(found.placements)]
    spread = placed(question, found, 0, found.spread)
    return Answer(float(found.value[0]), each[0], True, found.nodes, tuple(each[1:]), spread)


def _by_constraints(question: Packing) -> Answer:
    # Only here: it takes a moment to be there.
    from pocketspark.core.fit.constraints import settle

    return settle(question)


def conflict(question: Packing) -> list[str]:
    """A smallest set of items and blocks that already do not go together: each is taken out on trial.

    Blocks of one name are taken out together: they are one thing, or what is left round several rooms.
    """
    items, blocks = list(range(len(question.items))), list(range(len(question.blocks)))
    for name in dict.fromkeys(block.name for block in question.blocks):
        rest = [b for b in blocks if question.blocks[b].name != name]
        if not search(part_of(question, items, rest)).placed:
            blocks = rest
    for index in list(items):
        rest = [i for i in items if i != index]
        if rest and not search(part_of(question, rest, blocks)).placed:
            items = rest
    return [question.items[i].name for i in items] + list(dict.fromkeys(question.blocks[b].name for b in blocks))


def part_of(question: Packing, items: Sequence[int], blocks: Sequence[int]) -> Packing:
    """The same question with only these items and blocks."""
    return Packing(
        items=tuple(question.items[i] for i in items),
        blocks=tuple(question.blocks[b] for b in blocks),
        item_gap=tuple(tuple(question.item_gap[i][j] for j in items) for i in items),
        block_gap=tuple(tuple(question.block_gap[i][b] for b in blocks) for i in items),
        circles=tuple(question.circles[i] for i in items) if question.circles else (),
        least=question.least,
        most=question.most,
        node_limit=question.node_limit,
    )
