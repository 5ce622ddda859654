"""Routes of the proposals: a search over every build that library and own parts allow, looked at while it goes on."""

from collections import OrderedDict
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import Annotated

from fastapi import APIRouter, Depends, HTTPException, Request
from pydantic import BaseModel

from pocketspark.core.cells.sizes_sold import cells_by_size
from pocketspark.core.message import Message, say
from pocketspark.core.models import Board, Cell
from pocketspark.core.models.inventory_item import Resistor
from pocketspark.core.models.model import RowNumber
from pocketspark.core.proposals import Memory, OnOffer, Opens, Proposal, Proposals, Wishes, proposals, what_opens
from pocketspark.core.proposals.offer import Offered, grouped
from pocketspark.core.proposals.own_parts import OwnStock, can_be_had
from pocketspark.core.proposals.recommendation import Recommendation
from pocketspark.core.proposals.search import NAMED, Fell, Minded
from pocketspark.core.proposals.wishes import may_be_wished
from pocketspark.parts import Library
from pocketspark.server.asking import AskedBuild, OurLibrary, OurProjects, Question, read_question
from pocketspark.server.jobs import Job, Jobs, State
from pocketspark.server.own_stock import own_stock
from pocketspark.server.problems import PROBLEM_RESPONSES
from pocketspark.server.question_routes import OurInventory

router = APIRouter(prefix="/api/questions/proposals", tags=["proposals"], responses=PROBLEM_RESPONSES)

# Of the whole front so many are sent once it stands.
MOST_SHOWN = 40


class ProposalQuestion(Question):
    """A whole document, which build's way of building it is meant, and what is wished."""

    wishes: Wishes = Wishes()


class Dot(BaseModel):
    """One build in question, by its bounds."""

    hours: float
    price: float


class ProposalSearch(BaseModel):
    """A search as far as it has got. `front`: what nothing beats, the named ones first; `front_count`: all of it."""

    id: int
    state: State
    settled_all: bool  # the front stands; what each wish costs may still be worked out
    may_be_wished: list[str]  # wishes that need nothing which is not there
    left_out: list[Message]  # own parts that cannot be had, and why
    opens: list[Opens]
    builds: int
    settled: int
    mode: str
    front: list[Proposal]
    front_count: int
    recommended: Recommendation | None
    fell: list[Fell]
    minded: list[Minded]
    dots: list[Dot]  # a sample of the builds in question


# Gadgets of which what was found out is kept, so that another wish need not find it out again.
KEPT_MEMORIES = 4


class Memories:
    """What earlier searches found out, by the document and its build, the last few."""

    def __init__(self) -> None:
        self._kept: OrderedDict[tuple[str, int], Memory] = OrderedDict()

    def of(self, asked: AskedBuild) -> Memory:
        key = (asked.project.model_dump_json(), asked.build)
        memory = self._kept.setdefault(key, Memory())
        self._kept.move_to_end(key)
        while len(self._kept) > KEPT_MEMORIES:
            self._kept.popitem(last=False)
        return memory


@dataclass(frozen=True)
class Searched:
    """What the job has got to."""

    state: Proposals
    opens: tuple[Opens, ...]
    may_be_wished: list[str]
    left_out: Sequence[Message]


def searches_of(request: Request) -> Jobs[Searched]:
    searches: Jobs[Searched] = request.app.state.proposals
    return searches


def memories_of(request: Request) -> Memories:
    memories: Memories = request.app.state.proposal_memories
    return memories


OurMemories = Annotated[Memories, Depends(memories_of)]
OurSearches = Annotated[Jobs[Searched], Depends(searches_of)]


@router.post("", status_code=202)
def start_proposals(
    question: ProposalQuestion,
    projects: OurProjects,
    library: OurLibrary,
    inventory: OurInventory,
    searches: OurSearches,
    memories: OurMemories,
) -> ProposalSearch:
    """Begins a search. 409 where the gadget's current is not known: without it nothing has hours."""
    asked = read_question(question, projects)
    if not any(mode.current_a > 0 for mode in asked.project.gadget.modes):
        raise HTTPException(409, say("measure one current of the gadget first: without it no build has hours"))
    own, left_out = can_be_had(own for _, own in own_stock(inventory, projects, asked.project_id))
    return _reply(searches.start(_work(asked, on_offer(library, own), question.wishes, memories.of(asked), left_out)))


@router.get("/{job_id}")
def look_at_proposals(job_id: RowNumber, searches: OurSearches) -> ProposalSearch:
    return _reply(searches.get(job_id))


@router.delete("/{job_id}", status_code=204)
def cancel_proposals(job_id: RowNumber, searches: OurSearches) -> None:
    searches.cancel(job_id)


def on_offer(parts: Library, own: Sequence[OwnStock] = ()) -> OnOffer:
    """Everything that is sold, and what the maker has."""
    boards = [(one.body, one.free) for one in own if isinstance(one.body, Board)]
    mine = [
        Offered(one.body, own=True, free=one.free) for one in own if isinstance(one.body, Cell) and one.body.size_mm
    ]
    cells = [Offered(cell) for cell in parts.cells if cell.size_mm]

    def sold(kind: str) -> list[Offered]:
        return [Offered(part.board) for part in parts.parts if part.kind == kind and part.board]

    def have(trait: str) -> list[Offered]:
        return [
            Offered(board, own=True, free=free) for board, free in boards if getattr(board, trait) and board.outline_mm
        ]

    chargers = have("charger")
    others = [one for one in have("protection") if one not in chargers]
    return OnOffer(
        [*mine, *cells],
        [*chargers, *sold("charger")],
        [*others, *sold("protection")],
        [None, *(one for one in have("regulator") if one not in chargers), *sold("regulator")],
        _by_size(parts.cells),
        sorted(one.body.r_ohm for one in own if isinstance(one.body, Resistor)),
    )


@lru_cache(maxsize=2)
def _by_size(cells: tuple[Cell, ...]) -> list[Offered]:
    return grouped(cells_by_size(cells))


def _work(
    asked: AskedBuild, offer: OnOffer, wishes: Wishes, memory: Memory, left_out: Sequence[Message]
) -> Iterator[tuple[int, int, Searched | None]]:
    """The search, and then what each wish costs."""
    state, may = None, may_be_wished(asked.project, asked.build)
    for state in proposals(asked.project, asked.build, offer, wishes, memory):
        yield state.settled, state.builds, Searched(state, (), may, left_out)
    if state is None:
        return
    now_h = max((one.hours for one in state.front), default=0.0)
    for opens in what_opens(asked.project, asked.build, offer, wishes, now_h, memory):
        yield state.settled, state.builds, Searched(state, opens, may, left_out)


def _reply(job: Job[Searched]) -> ProposalSearch:
    last = job.results[-1].state if job.results else None
    settled = last is not None and last.finished
    shown = MOST_SHOWN if settled or job.state != "running" else NAMED
    return ProposalSearch(
        id=job.id,
        state=job.state,
        settled_all=settled,
        may_be_wished=job.results[-1].may_be_wished if job.results else [],
        left_out=list(job.results[-1].left_out) if job.results else [],
        opens=list(job.results[-1].opens) if job.results else [],
        builds=job.total,
        settled=job.done,
        mode=last.mode if last else "",
        front=list(last.front[:shown]) if last else [],
        front_count=len(last.front) if last else 0,
        recommended=last.recommended if last and last.recommended and last.recommended.place < shown else None,
        fell=list(last.fell) if last else [],
        minded=list(last.minded) if last else [],
        dots=[Dot(hours=hours, price=price) for hours, price in last.dots] if last else [],
    )
