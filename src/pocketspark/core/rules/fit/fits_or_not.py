"""Does it all go in, and how sure is that?"""

from collections.abc import Iterator

from pocketspark.core.chain import Chain
from pocketspark.core.finding import Judgement, Remedy
from pocketspark.core.fit.allowances import SWELL_SHARE
from pocketspark.core.fit.answer_in_words import in_words
from pocketspark.core.fit.build_in_bay import IN_BAY, FittedBuild
from pocketspark.core.fit.remedies import remedies_for
from pocketspark.core.fit.tolerances import CELL_OFF_MM, OTHER_OFF_MM
from pocketspark.core.message import NOTHING, Message, all_of, any_of, row_of, say, say_of
from pocketspark.core.rules.rule import Facts, caution, fine, note, rule, stop
from pocketspark.core.units.figures import as_typed, millimetres, percent, sizes

# What a maker is told of the changes that would let it in: the smallest few.
MOST_ADVICE = 3


@rule(
    "fit.does_not_fit",
    station="fit",
    source="search over every way round and every side by side",
    formula=say(
        "parts with {it} round boards and 10 % swell on pouches, inside the bay and apart", it=millimetres(0.5)
    ),
    limits=say("room to spare over the tolerance of the measurement"),
    advice=say(
        "Make the change that is named, or choose a smaller part. Where it is too close to call, measure again."
    ),
    guide="bay",
)
def does_not_fit(fitted: FittedBuild) -> Iterator[Judgement]:
    """Whether all parts go into the bay with their clearances; if not, which conflict, and what must give."""
    answer, chain = fitted.answer, fitted.chain
    spare = millimetres(answer.clearance_mm or 0.0)
    facts: Facts = {"rests_on": IN_BAY, "assumed": answer.assumed_bay, "subjects": answer.conflict}
    if answer.fits == "yes":
        yield fine(in_words(answer), figure=spare, **facts)
    elif answer.fits == "not_certain":
        yield caution(
            in_words(answer),
            working=say(
                "Do not cut on its word. Dry-fit, or hold a part where you want it; the log has what to send us."
            ),
            **facts,
        )
    elif answer.fits == "not_settled" and not answer.assumed_bay:
        yield caution(
            in_words(answer),
            figure=spare,
            working=say("Hold a part where you want it, or give more room: then less is left to search."),
            remedy=_smallest(chain),
            **facts,
        )
    elif answer.fits == "too_close":
        yield caution(
            in_words(answer),
            figure=spare,
            limit=millimetres(answer.tolerance_mm),
            working=say("Measure the tightest place again, or dry-fit before anything is cut."),
            remedy=_smallest(chain),
            **facts,
        )
    elif answer.assumed_bay:
        yield caution(
            in_words(answer),
            figure=spare,
            working=say("That holds if the bay is no larger than they suggest. {advice}", advice=_advice(chain)),
            **facts,
        )
    else:
        yield stop(in_words(answer), working=_advice(chain), remedy=_smallest(chain), **facts)


def _advice(chain: Chain) -> Message:
    """What must give, the smallest changes."""
    if not chain.advises:
        return NOTHING
    says = [given.says for given in remedies_for(chain.project, chain.build_number)[:MOST_ADVICE]]
    if not says:
        return say("No single change makes it fit. Choose a smaller cell, or put parts outside.")
    return say("{ways}.", ways=any_of(says))


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
    formula=say("spare - (t_bay + t_cell + t_board + ...), and spare - sqrt(t_bay^2 + t_cell^2 + ...)"),
    limits=say(
        "a cell {cell_off_mm} over its code, anything else {other_off_mm}, the bay by the calipers",
        cell_off_mm=as_typed(CELL_OFF_MM),
        other_off_mm=as_typed(OTHER_OFF_MM),
    ),
    advice=say("Measure the parts you have in hand, and the bay at its narrowest."),
    guide="bay",
    follows=("fit.does_not_fit",),
)
def tolerances(fitted: FittedBuild) -> Iterator[Judgement]:
    """What goes in by its measures, and would not if everything were off at once, the bad way."""
    answer = fitted.answer
    short = [chain for chain in answer.chains if chain.worst_mm < 0]
    if answer.fits != "yes" or not short:
        return
    chain = min(short, key=lambda chain: chain.worst_mm)
    missing, likely = millimetres(-chain.worst_mm), millimetres(abs(chain.likely_mm))
    left = (
        say("{likely} are left", likely=likely) if chain.likely_mm >= 0 else say("{likely} are missing", likely=likely)
    )
    yield note(
        say(
            "If bay, cell and boards are all off at once, {missing} is missing in {axis}; likely, {left}.",
            missing=missing,
            axis=chain.axis,
            left=left,
        ),
        figure=missing,
        working=say(
            "In a row: {parts}. Measure the cell that really came before the lid is cut.", parts=row_of(chain.parts)
        ),
        rests_on=IN_BAY,
        subjects=chain.parts,
    )


@rule(
    "fit.bay_assumed",
    station="fit",
    source="IEC 60086-2 maxima, from memory; room and springs, common practice",
    advice=say("Measure length, width and height of the empty bay."),
    guide="bay",
    follows=("fit.does_not_fit",),
)
def bay_assumed(fitted: FittedBuild) -> Iterator[Judgement]:
    """A bay inferred from the old batteries alone waits for calipers."""
    if fitted.answer.assumed_bay:
        length, width, height = fitted.answer.size_mm
        yield note(
            say(
                "The bay is not measured. Its old batteries suggest about {sizes}.",
                sizes=sizes(length, width, height, digits=0),
            ),
            working=say("Ribs, springs and terminals as such bays usually have them. Calipers replace each figure."),
            rests_on=IN_BAY,
            assumed=True,
        )


@rule(
    "fit.size_unknown",
    station="fit",
    source="how this tool counts",
    advice=say("Measure the part with its connectors, and enter its size."),
    guide="bay",
)
def size_unknown(fitted: FittedBuild) -> Iterator[Judgement]:
    """A part without a size cannot be placed."""
    unsized = fitted.answer.unsized
    if unsized:
        yield caution(
            say_of(
                len(unsized),
                "The size of {unsized} is not given, so the fit leaves it out.",
                "The sizes of {unsized} are not given, so the fit leaves them out.",
                unsized=all_of(unsized),
            ),
            subjects=unsized,
        )


@rule(
    "fit.swell",
    station="fit",
    source="common practice, no source",
    limits=say("{swell_share} of thickness", swell_share=percent(SWELL_SHARE)),
    advice=say("Leave that room above the pouch. Fill it with soft foam, never with glue or screws."),
    guide="thickness",
)
def swell(fitted: FittedBuild) -> Iterator[Judgement]:
    """A pouch gets thicker over its life; the lid must never press on it."""
    cell = fitted.chain.cell
    if cell is None or cell.form != "pouch" or cell.size_mm is None:
        return
    grown = millimetres(cell.size_mm[0] * SWELL_SHARE)
    if fitted.answer.fits == "yes":
        yield fine(say("The pouch has {grown} left to swell.", grown=grown), figure=grown)
    else:
        yield note(
            say(
                "The pouch will swell by {grown} over its life. A lid that closes only on a new cell bulges later.",
                grown=grown,
            ),
            figure=grown,
            working=say("Nothing hard or sharp against a pouch, and no wire between pouch and lid."),
        )


@rule(
    "fit.last_try_off",
    station="fit",
    source="the maker's own attempts",
    advice=say("Measure again where it was off, and note what you find."),
    guide="bay",
)
def last_try_off(fitted: FittedBuild) -> Iterator[Judgement]:
    """A try that was off by some millimetres widens the tolerance of the next answer."""
    most = max((attempt.off_mm or 0.0 for attempt in fitted.chain.build.record.attempts), default=0.0)
    if most:
        off = millimetres(most)
        yield note(
            say("An earlier try was off by {off}, so anything less to spare counts as too close to call.", off=off),
            figure=off,
        )
