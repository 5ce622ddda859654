"""Fit: does it all go in, how sure is that, and what is wrong with where it lies."""

from collections.abc import Iterator

from pocketspark.core.chain import Chain
from pocketspark.core.finding import Judgement, Remedy
from pocketspark.core.fit.allowances import STOP_MM, SWELL_SHARE
from pocketspark.core.fit.fitted import FittedBuild
from pocketspark.core.fit.in_words import in_words
from pocketspark.core.fit.openings import WEB_MM, meeting, over_the_edge_mm
from pocketspark.core.fit.reach import HOOK_UP_WIRE_MM
from pocketspark.core.fit.remedies import remedies_for
from pocketspark.core.fit.tolerances import CELL_OFF_MM, OTHER_OFF_MM
from pocketspark.core.rules.rule import caution, fine, note, remedy, rule, stop
from pocketspark.core.units.figures import as_typed, millimetres, percent, sizes

IN_BAY = ("gadget.bay",)
# What a maker is told of the changes that would let it in: the smallest few.
MOST_ADVICE = 3


@rule(
    "fit.does_not_fit",
    station="fit",
    source="search over every way round and every side by side",
    formula=lambda: f"parts with {millimetres(0.5)} round boards and 10 % swell on pouches, inside the bay and apart",
    limits="room to spare over the tolerance of the measurement",
)
def does_not_fit(fitted: FittedBuild) -> Iterator[Judgement]:
    """Whether all parts go into the bay with their clearances; if not, which conflict, and what must give."""
    answer, chain = fitted.answer, fitted.chain
    spare = millimetres(answer.clearance_mm or 0.0)
    facts = {"rests_on": IN_BAY, "assumed": answer.assumed_bay, "subjects": answer.conflict}
    if answer.fits == "yes":
        yield fine(in_words(answer), figure=spare, **facts)
    elif answer.fits == "not_certain":
        yield caution(
            in_words(answer),
            working="Do not cut on its word. Dry-fit, or hold a part where you want it; the log has what to send us.",
            **facts,
        )
    elif answer.fits == "too_close":
        yield caution(
            in_words(answer),
            figure=spare,
            limit=millimetres(answer.tolerance_mm),
            working="Measure the tightest place again, or dry-fit before anything is cut.",
            remedy=_smallest(chain),
            **facts,
        )
    elif answer.assumed_bay:
        yield caution(
            in_words(answer),
            figure=spare,
            working=f"If it is no larger than they suggest: {_advice(chain)}",
            **facts,
        )
    else:
        yield stop(in_words(answer), working=_advice(chain), remedy=_smallest(chain), **facts)


def _advice(chain: Chain) -> str:
    """What must give, the smallest changes."""
    if not chain.advises:
        return ""
    says = [given.says for given in remedies_for(chain.project, chain.build_number)[:MOST_ADVICE]]
    return "; or ".join(says) + "." if says else "No single change lets it in: a smaller cell, or parts outside."


def _smallest(chain: Chain) -> Remedy | None:
    """The smallest change that the tool can make by itself."""
    for given in remedies_for(chain.project, chain.build_number) if chain.advises else ():
        if given.edits:
            return Remedy(label=given.says, edits=given.edits)
    return None


@rule(
    "fit.tolerances",
    station="fit",
    source="chains of tolerances, worst case and root of squares: engineering handbooks, from memory",
    formula="spare - (t_bay + t_cell + t_board + ...), and spare - sqrt(t_bay^2 + t_cell^2 + ...)",
    limits=lambda: (
        f"a cell {as_typed(CELL_OFF_MM)} over its code, anything else {as_typed(OTHER_OFF_MM)}, the bay by the calipers"
    ),
)
def tolerances(fitted: FittedBuild) -> Iterator[Judgement]:
    """What goes in by its measures, and would not if everything were off at once, the bad way."""
    answer = fitted.answer
    short = [chain for chain in answer.chains if chain.worst_mm < 0]
    if answer.fits != "yes" or not short:
        return
    chain = min(short, key=lambda chain: chain.worst_mm)
    missing, likely = millimetres(-chain.worst_mm), millimetres(abs(chain.likely_mm))
    left = f"{likely} are left" if chain.likely_mm >= 0 else f"{likely} are missing"
    yield note(
        f"If bay, cell and boards are all off at once, {missing} are missing in {chain.axis}; likely, {left}.",
        figure=missing,
        working=f"In a row: {', '.join(chain.parts)}. Measure the cell that really came before the lid is cut.",
        rests_on=IN_BAY,
        subjects=chain.parts,
    )


@rule("fit.bay_assumed", station="fit", source="IEC 60086-2 maxima, from memory; room and springs, common practice")
def bay_assumed(fitted: FittedBuild) -> Iterator[Judgement]:
    """A bay inferred from the old batteries alone waits for calipers."""
    if fitted.answer.assumed_bay:
        length, width, height = fitted.answer.size_mm
        yield note(
            f"The bay is not measured: its old batteries suggest about {sizes(length, width, height, digits=0)}.",
            working="Ribs, springs and terminals as such bays usually have them. Calipers replace each figure.",
            rests_on=IN_BAY,
            assumed=True,
        )


@rule("fit.size_unknown", station="fit", source="how this tool counts")
def size_unknown(fitted: FittedBuild) -> Iterator[Judgement]:
    """A part without a size cannot be placed."""
    unsized = fitted.answer.unsized
    if unsized:
        is_are = "is" if len(unsized) == 1 else "are"
        yield caution(
            f"The size of {' and '.join(unsized)} {is_are} not given, so the fit leaves it out.", subjects=unsized
        )


@rule(
    "fit.socket_deep",
    station="fit",
    source="plug bodies of Type-C and Micro-B, from memory",
    limits=lambda: millimetres(0.5),
)
def socket_deep(fitted: FittedBuild) -> Iterator[Judgement]:
    """A socket that lies deep needs a hole for the plug's plastic body, or the plug does not seat."""
    for hole in fitted.answer.openings:
        if hole.for_plug:
            size = sizes(hole.width_mm, hole.height_mm)
            yield note(
                f"The {hole.side} wall needs a {size} opening: the whole plug has to enter, the socket sits too deep.",
                working=f"{hole.part}: {hole.says}",
                subjects=(hole.part, hole.side),
            )


@rule(
    "fit.holes_meet",
    station="fit",
    source="common practice, no source",
    limits=lambda: f"{as_typed(WEB_MM)} of wall between two",
)
def holes_meet(fitted: FittedBuild) -> Iterator[Judgement]:
    """Two holes side by side must leave some wall between them, or they become one."""
    for first, second in meeting(fitted.answer.openings) if fitted.goes_in else ():
        yield caution(
            f"In the {first.side} wall the {first.what} hole of {first.part} and the {second.what} hole of "
            f"{second.part} would run into one: less than {millimetres(WEB_MM)} is left between them.",
            limit=millimetres(WEB_MM),
            working="Hold one of them elsewhere along the wall, or open another wall.",
            rests_on=IN_BAY,
            subjects=(first.part, second.part, first.side),
        )


@rule("fit.hole_over_edge", station="fit", source="geometry of the shell's outer face", limits="the face's edge")
def hole_over_edge(fitted: FittedBuild) -> Iterator[Judgement]:
    """A hole that is taller than its wall, or at its edge, cuts into the neighbour wall or opens the seam."""
    answer = fitted.answer
    length, width, height = answer.size_mm
    for hole in answer.openings if fitted.goes_in and not answer.tube_mm else ():
        over_mm = over_the_edge_mm(hole, (length, width, height), answer.wall_mm)
        if over_mm > 0:
            yield caution(
                f"The {hole.what} hole of {hole.part} reaches {millimetres(over_mm)} over the edge of the "
                f"{hole.side} wall: it cuts into the wall next to it, or opens the seam.",
                figure=millimetres(over_mm),
                working="Turn the board over, hold it further from the edge, or open a larger wall.",
                rests_on=IN_BAY,
                subjects=(hole.part, hole.side),
            )


@rule("fit.no_way_in", station="fit", source="geometry: each part straight down, or down and then aside")
def no_way_in(fitted: FittedBuild) -> Iterator[Judgement]:
    """A place for everything is worth nothing where it cannot be reached."""
    stuck = fitted.answer.stuck
    if fitted.goes_in and stuck:
        parts = " and ".join(stuck)
        yield caution(
            f"No way into its place was found for {parts}: straight down from the lid something is over it.",
            working="Each part was tried straight down, and down and then aside, the last in first out. It may go in "
            "tilted, or with a rib trimmed; try it before anything is soldered, or hold a part elsewhere.",
            rests_on=IN_BAY,
            subjects=stuck,
        )


@rule("fit.socket_unsupported", station="fit", source="common practice, no source")
def socket_unsupported(fitted: FittedBuild) -> Iterator[Judgement]:
    """Something behind the board must take the push of the plug."""
    for placement in fitted.answer.placements if fitted.goes_in else ():
        if not placement.face_side or placement.kind not in ("board", "socket"):
            continue
        if placement.stop_mm:
            thick = millimetres(placement.stop_mm)
            yield fine(
                f"Behind {placement.part} there is {thick} for a stop.", figure=thick, subjects=(placement.part,)
            )
        else:
            yield note(
                f"Put a stop behind {placement.part}: a glued block or rib takes the push of the plug.",
                working="Without it the socket is pushed in after a month. The fit keeps no room for one yet.",
                remedy=remedy(f"Keep {millimetres(STOP_MM)} for it", {f"{fitted.chain.path}.socket_stop_mm": STOP_MM}),
                subjects=(placement.part,),
            )


@rule("fit.hot_side", station="fit", source="common practice, no source", limits=lambda: as_typed(3))
def hot_side(fitted: FittedBuild) -> Iterator[Judgement]:
    """A charger's warm face lies on the cell where no other place was found."""
    if fitted.answer.hot_against_cell:
        yield caution(
            "The charger's warm side looks at the cell: no other place was found for it.",
            working="A millimetre of air and a sheet of card between them, and a gentler current.",
        )


@rule(
    "fit.pads_shut_in",
    station="fit",
    source="common practice, no source; wire of 28 AWG with silicone, from memory",
    formula="the room left by all solids grown by half a wire is in one piece from pads to pads",
    limits=lambda: f"{as_typed(HOOK_UP_WIRE_MM)} of wire",
)
def pads_shut_in(fitted: FittedBuild) -> Iterator[Judgement]:
    """A part may fit where no wire can be led to its pads."""
    for name in fitted.answer.shut_in if fitted.goes_in else ():
        yield caution(
            f"No wire of {millimetres(HOOK_UP_WIRE_MM)} can be led to the pads of {name} where it lies.",
            limit=millimetres(HOOK_UP_WIRE_MM),
            working="Solder its wires before it goes in and lead them through a notch, or a flat insulated strip where "
            "a wire is too thick; or give it room: trim what shuts it in, hold it elsewhere, put it outside.",
            rests_on=IN_BAY,
            subjects=(name,),
        )


@rule("fit.swell", station="fit", source="common practice, no source", limits=f"{percent(SWELL_SHARE)} of thickness")
def swell(fitted: FittedBuild) -> Iterator[Judgement]:
    """A pouch gets thicker over its life; the lid must never press on it."""
    cell = fitted.chain.cell
    if cell is None or cell.form != "pouch" or cell.size_mm is None:
        return
    grown = millimetres(cell.size_mm[0] * SWELL_SHARE)
    if fitted.answer.fits == "yes":
        yield fine(f"The pouch has {grown} left to swell.", figure=grown)
    else:
        yield note(
            f"The pouch will swell by {grown} over its life: a lid that closes only on a new cell bulges later.",
            figure=grown,
            working="Nothing hard or sharp against a pouch, and no wire between pouch and lid.",
        )


@rule("fit.last_try_off", station="fit", source="the maker's own attempts")
def last_try_off(fitted: FittedBuild) -> Iterator[Judgement]:
    """A try that was off by some millimetres widens the tolerance of the next answer."""
    most = max((attempt.off_mm or 0.0 for attempt in fitted.chain.build.record.attempts), default=0.0)
    if most:
        off = millimetres(most)
        yield note(f"An earlier try was {off} off, so less than that to spare counts as too close to call.", figure=off)
