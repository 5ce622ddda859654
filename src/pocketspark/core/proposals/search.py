"""The search: every draft by its bounds, the fit asked as seldom as can be, and the whole judgement as the last word.

A draft that something sound already beats, even at its best, need not be asked. What is asked and found sound hides
another only by its exact figures; so the front that is left is exact, whatever the bounds and the order were.
"""

import itertools
from collections import Counter
from collections.abc import Iterator, Sequence
from dataclasses import replace
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from pocketspark.core.message import Message
from pocketspark.core.models import Cell, Project
from pocketspark.core.models.model import Model
from pocketspark.core.proposals.given_chargers import with_given_chargers
from pocketspark.core.proposals.in_question import InQuestion, beaten, in_question, joined, way_by_way
from pocketspark.core.proposals.judging import BEATEN, Judged, Memory, Search, judge_once, way_and_parts
from pocketspark.core.proposals.lighting import for_what_glows
from pocketspark.core.proposals.objectives import FIGURES, ROOM_MM, Steps
from pocketspark.core.proposals.offer import NO_FIT, Offered, OnOffer, build_of, in_order, with_build
from pocketspark.core.proposals.outlines import cells_that_go_in
from pocketspark.core.proposals.proposal import Proposal, front_of, named, weighed_one
from pocketspark.core.proposals.recommendation import Recommendation, recommended, with_the_best_first
from pocketspark.core.proposals.ways import ways_of
from pocketspark.core.proposals.wishes import Wishes

# So many named ones are shown.
NAMED = 12
_ALL_BOARDS = 9


class Fell(Model):
    """How many builds fell to one reason, and to which station it belongs; "": they were sound, or not wished."""

    station: str
    reason: Message
    count: int


class Minded(Model):
    """Builds that one kind of caution kept from being what is wished; `says`: what one of them was told."""

    code: str
    says: Message
    count: int


class Proposals(Model):
    """How far the search has got. `dots` are (hours, price) of drafts that are in question, a sample of them."""

    builds: int
    settled: int
    finished: bool
    mode: str
    front: tuple[Proposal, ...]
    recommended: Recommendation | None
    fell: tuple[Fell, ...]
    minded: tuple[Minded, ...]
    dots: tuple[tuple[float, float], ...]


def proposals(
    project: Project, build: int, offer: OnOffer, wishes: Wishes | None = None, memory: Memory | None = None
) -> Iterator[Proposals]:
    """The state of the search again and again, the last one finished. Stop asking to cancel.

    The gadget, and how it is to be built (style, source, way of use, switch), are the build's, but for what the wishes
    let be otherwise; its parts are not. `memory`: of earlier searches for this very gadget and build.
    """
    search = _search(project, build, offer, wishes or Wishes(), memory or Memory())
    if search is None:
        return
    first = None
    for first in _first_look(search):
        yield first
    parts = []
    for part in way_by_way(search):
        parts.append(part)
        if first is not None:
            left = sum(int(one.weights.sum()) for one in parts)
            yield first.model_copy(update={"builds": search.total, "settled": search.total - left})
    question = joined(parts)
    search.fell[BEATEN] -= len(search.sound)  # each of them is among what it beats
    yield _state(search, question, finished=False)
    for asked, answer in enumerate(_answers(search, question), 1):
        if asked % 8 == 0 or isinstance(answer, Proposal):
            yield _state(search, question, finished=False)
    yield _state(search, question, finished=True)


class Longest(NamedTuple):
    """The sound build of the most hours, None where none is sound; `settled`: nothing longer can be left."""

    builds: int  # in question
    best: Proposal | None
    settled: bool


# Builds that are judged anew for it, at most.
_ASKED_AT_MOST = 150


def longest(project: Project, build: int, offer: OnOffer, wishes: Wishes, memory: Memory) -> Iterator[Longest]:
    """The same search, for its longest build only, as far as it has got. Stop asking to cancel."""
    search = _search(project, build, offer, wishes, memory)
    if search is None or not search.offer.cells or not search.offer.chargers:
        yield Longest(0, None, settled=True)
        return
    question, before = in_question(search), len(memory.judged)
    best: Proposal | None = None
    for answer in _answers(search, question):
        if isinstance(answer, Proposal) and (best is None or answer.hours > best.hours):
            best = answer
        yield Longest(len(question.figures), best, settled=False)
        # They come in the order of the most hours that each could have.
        if best and not (question.figures[question.left, 0] < weighed_one(best)[0]).any():
            break
        if len(memory.judged) - before >= _ASKED_AT_MOST:
            return
    yield Longest(len(question.figures), best, settled=True)


def _search(project: Project, build: int, offer: OnOffer, wishes: Wishes, memory: Memory) -> Search | None:
    """None where the gadget draws nothing: then nothing has hours."""
    modes = [mode for mode in project.gadget.modes if mode.current_a > 0]
    mode = max(modes, key=lambda mode: mode.hours_per_day, default=None)
    if mode is None:
        return None
    narrowed = with_given_chargers(offer.narrowed(wishes, project.builds[build]), project, build, wishes)
    narrowed = for_what_glows(narrowed, project.gadget)
    return Search(ways_of(project, build, wishes), mode, in_order(narrowed), wishes, memory)


# A dozen stands early: so many cells are looked at first, and so many builds with them judged.
_FIRST_CELLS, _FIRST_ASKED = 16, 64


def _first_look(search: Search) -> Iterator[Proposals]:
    """What is found sound with a few cells, the largest that goes in to the smallest, hides others from the start."""
    whole = search.offer
    shapes = cells_that_go_in(whole, search.ways[0].project, search.memory.known)
    usual = [n for n, cell in enumerate(whole.cells) if shapes[n][0] and not cell.shapes]
    by_charge = sorted(usual, key=lambda n: -_capacity_ah(whole.cells[n]))
    chosen = by_charge[:: max(1, -(-len(by_charge) // _FIRST_CELLS))]
    few = replace(
        search,
        ways=search.ways[:1],
        offer=replace(whole, cells=[whole.cells[n] for n in chosen]),
        fell=Counter(),
        exact={},
    )
    question = in_question(few)
    question.left[:] = False
    question.left[_best_of_each_cell(question)] = True
    for _answer in itertools.islice(_answers(few, question), _FIRST_ASKED):
        yield _state(few, question, finished=False)


def _best_of_each_cell(question: InQuestion) -> list[int]:
    """For each cell the draft of most hours, the cheapest, the one soonest full, and that of least work."""
    best = []
    for cell in np.unique(question.columns[:, 1]):
        rows = np.flatnonzero(question.columns[:, 1] == cell)
        best += [int(rows[np.lexsort((question.figures[rows, 0], question.figures[rows, n]))[0]]) for n in range(4)]
    return best


def _capacity_ah(part: Offered) -> float:
    return part.body.planning_capacity_ah if isinstance(part.body, Cell) else 0.0


# Asking ----------------------------------------------------------------------------------------------------------


def _answers(search: Search, question: InQuestion) -> Iterator[Judged]:
    """Draft by draft; after each, what it beats or rules out is left no more."""
    left = question.left
    place = -1
    while True:
        ahead = left[place + 1 :]
        if not ahead.any():
            return
        place += 1 + int(ahead.argmax())
        if _is_known_to_be_beaten(search, question, place):
            _fall(search, question, np.array([place]), BEATEN)
            continue
        if not _may_have_room(search, question, place):
            continue
        left[place] = False
        number, *draft = (int(column) for column in question.columns[place])
        answer = _best_shape(search, number, draft, search.room_wanted(question.figures[place]))
        weight = int(question.weights[place])
        if isinstance(answer, Proposal):
            search.sound.append(answer)
            search.table.append(weighed_one(answer))
            out, reason = _no_better(question, np.flatnonzero(left), search.table[-1]), BEATEN
            weight -= 1
        else:
            out, reason = np.zeros(0, dtype=np.intp), answer
            if answer == NO_FIT:
                out = question.outlines.no_smaller_than(place, left)
        search.fell[reason] += weight
        _fall(search, question, out, reason)
        yield answer


def _is_known_to_be_beaten(search: Search, question: InQuestion, place: int) -> bool:
    """Its hours may be known exactly from the same parts in another way; bounds are a little better than those."""
    number, *draft = (int(column) for column in question.columns[place])
    exact = search.exact.get(way_and_parts(search.ways[number].build, draft))
    if exact is None:
        return False
    figures = question.figures[place]
    figures[0], figures[2] = max(figures[0], exact[0]), max(figures[2], exact[1])
    return any((one <= figures).all() for one in search.table)


def _fall(search: Search, question: InQuestion, places: NDArray[np.intp], reason: Message) -> None:
    search.fell[reason] += int(question.weights[places].sum())
    question.left[places] = False


def _may_have_room(search: Search, question: InQuestion, place: int) -> bool:
    """Whether the draft's cells alone, and with the charger board, leave as much room as it needs to be unbeaten.

    Where they do not, every draft with them is worth less, and those that are then beaten are left no more.
    """
    wanted = search.room_wanted(question.figures[place])
    number, *draft = (int(column) for column in question.columns[place])
    # A box of its own is made round its parts: with more of them there is more room.
    if not wanted or search.ways[number].build.facts_of_style.own_box:
        return True
    has_board = search.offer.chargers[draft[2]].who_charges == "board"
    for boards in (0, 1) if has_board else (0,):
        if not _shapes_with_room(search, number, draft, wanted, boards):
            rows = question.with_its_cells(place, and_charger=boards > 0)
            question.figures[rows, -1] = np.maximum(question.figures[rows, -1], 1 - wanted)
            _fall(search, question, rows[beaten(question.figures[rows], search.table)], BEATEN)
            return bool(question.left[place]) and _may_have_room(search, question, place)
    return True


def _shapes_with_room(
    search: Search, number: int, draft: Sequence[int], wanted: int, boards: int, among: Sequence[int] | None = None
) -> list[int]:
    """In which of its cell's shapes a draft goes in with so much room, by its place in ROOM_MM and one more; 0: at all.

    `boards`: so many of its boards are placed. Only the first is looked for where the boards are not all there.
    """
    way, spare_mm = search.ways[number], ROOM_MM[wanted - 1] if wanted else 0.0
    found: list[int] = []
    for shape in search.shapes[number][draft[0]][draft[1]] if among is None else among:
        build = build_of(draft, search.offer, way.build, shape)
        less = build.model_copy(update={"boards": build.boards[:boards]})
        if search.memory.known.goes_in(with_build(way.project, less), 0, spare_mm) is not False:
            found.append(shape)
            if boards < _ALL_BOARDS:
                break
    return found


def _best_shape(search: Search, number: int, draft: Sequence[int], wanted: int) -> Judged:
    """Of a cell that is there in several shapes the one with most room is judged: nothing else tells them apart."""
    shapes: list[int] = search.shapes[number][draft[0]][draft[1]]
    if len(shapes) > 1:
        shapes = _shapes_with_room(search, number, draft, wanted, _ALL_BOARDS)
        while len(shapes) > 1 and wanted < len(ROOM_MM):
            wanted += 1
            shapes = _shapes_with_room(search, number, draft, wanted, _ALL_BOARDS, shapes) or shapes[:1]
        if not shapes:
            return BEATEN if wanted else NO_FIT
    return judge_once(search, search.ways[number], draft, shapes[0])


def _no_better(question: InQuestion, places: NDArray[np.intp], figures: Steps) -> NDArray[np.intp]:
    """Of these places those at best as good as this, figure by figure: most fall at the first."""
    for column in range(figures.shape[-1]):
        places = places[question.figures[places, column] >= figures[column]]
    return places


# What is shown of it ---------------------------------------------------------------------------------------------


def _state(search: Search, question: InQuestion, *, finished: bool) -> Proposals:
    unbeaten = named(front_of(search.sound, np.array(search.table).reshape(-1, FIGURES)))
    front = with_the_best_first(unbeaten, NAMED)
    # What was sound when it was asked, and beaten by what came later.
    beaten = Counter({BEATEN: len(search.sound) - len(front)})
    fell = tuple(
        Fell(station=search.memory.station_of(reason), reason=reason, count=count)
        for reason, count in (search.fell + beaten).most_common()
    )
    minded = tuple(
        Minded(code=code, says=search.minded_examples[code], count=count) for code, count in search.minded.most_common()
    )
    return Proposals(
        builds=search.total,
        settled=search.total - int(question.weights[question.left].sum()),
        finished=finished,
        mode=search.mode.name,
        front=tuple(front),
        recommended=recommended(front),
        fell=fell,
        minded=minded,
        dots=question.dots,
    )
