"""One proposal, and which of many are named, each by what it is best at."""

from collections.abc import Callable, Sequence

from pocketspark.core.fit.picture import BayPicture
from pocketspark.core.limits import DIM
from pocketspark.core.message import NOTHING, Message, row_of
from pocketspark.core.models import Build
from pocketspark.core.models.model import Model
from pocketspark.core.models.project import Edit
from pocketspark.core.proposals.objectives import Steps, room_mm, unbeaten, weighed
from pocketspark.core.units.figures import ShownDays, ShownHours, ShownMillimetres, ShownShare


class Proposal(Model):
    """One build that is sound and that nothing beats. `because`: what it is best at; empty for one of many.

    `otherwise`: what of its way is not as the maker's own build has it; `edits`: what the bay has to become for it.
    """

    because: Message = NOTHING
    name: str
    otherwise: Message = NOTHING
    cell: str
    charger: str
    others: tuple[str, ...]
    r_prog_ohm: float
    hours: ShownHours  # of service: those in which a lamp gives half of its light
    days: ShownDays | None = None  # as used, those in which the gadget does its job
    serves_years: float | None = None  # until a charge no longer lasts as long as wanted
    serves: Message = NOTHING
    full_h: ShownHours
    price: float
    joints: int
    holes: int
    light_half: ShownShare | None  # of the light it was made for, half way through the charge
    spare_mm: ShownMillimetres | None
    off_days: ShownDays
    cautions: tuple[Message, ...]
    caution_codes: tuple[str, ...]  # of the rules that give them, in the same order
    own: bool  # of own parts alone
    is_protected: bool = True  # by its own protection or that of a board
    picture: BayPicture | None
    plan: Build
    edits: tuple[Edit, ...] = ()


def weighed_one(one: Proposal) -> Steps:
    """Its seven figures."""
    work, room = one.joints + one.holes, room_mm(one.plan, one.spare_mm)
    light = 1.0 if one.light_half is None else one.light_half
    return weighed(one.hours, one.price, one.full_h, work, one.off_days, light, room)


def front_of(found: Sequence[Proposal], table: Steps) -> list[Proposal]:
    """Those that none of the others beats, the longest first; of equal ones the first. `table`: their figures."""
    return sorted((found[row] for row in unbeaten(table)), key=lambda one: (-one.hours, one.price))


def _is_dim(one: Proposal) -> bool:
    return one.light_half is not None and one.light_half < DIM


_BEST: tuple[tuple[str, Callable[[Proposal], tuple[float, ...]]], ...] = (
    ("longest", lambda one: (-one.hours, one.price)),
    ("longest of the bright ones", lambda one: (_is_dim(one), -one.hours)),
    ("cheapest", lambda one: (one.price, -one.hours)),
    ("simplest to solder", lambda one: (one.joints, -one.hours)),
    ("no cutting", lambda one: (one.holes, -one.hours)),
    ("soonest full", lambda one: (one.full_h, -one.hours)),
    ("from your parts alone", lambda one: (not one.own, -one.hours)),
    ("most room to spare", lambda one: (-(one.spare_mm or 0.0), -one.hours)),
    ("longest switched off", lambda one: (-one.off_days, -one.hours)),
    ("no cautions", lambda one: (len(one.cautions), -one.hours)),
    ("most hours for its price", lambda one: (-one.hours / max(one.price, 0.5), one.price)),
)
# What a name claims outright, and not only beside the others.
_CLAIMS: dict[str, Callable[[Proposal], bool]] = {
    "from your parts alone": lambda one: one.own,
    "no cautions": lambda one: not one.cautions,
    "no cutting": lambda one: not one.holes and not one.edits,
    "longest of the bright ones": lambda one: one.light_half is not None and not _is_dim(one),
}


def named(front: Sequence[Proposal]) -> list[Proposal]:
    """The most useful dozen first, each with what it is best at; the rest of the front behind them."""
    reasons: dict[int, list[str]] = {}
    for reason, key in _BEST if front else ():
        best = min(range(len(front)), key=lambda number: key(front[number]))
        if reason not in _CLAIMS or _CLAIMS[reason](front[best]):
            reasons.setdefault(best, []).append(reason)
    first = [front[n].model_copy(update={"because": row_of(said)}) for n, said in sorted(reasons.items())]
    rest = [one for n, one in enumerate(front) if n not in reasons]
    return [*first, *rest]
