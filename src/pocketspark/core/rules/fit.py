"""Fit: does it all go in, how sure is that, and what is wrong with where it lies."""

from collections.abc import Iterator

from pocketspark.core.chain import Chain
from pocketspark.core.finding import Remedy
from pocketspark.core.fit.answer import FitAnswer
from pocketspark.core.fit.openings import WEB_MM, meeting
from pocketspark.core.fit.outer import SWELL_SHARE
from pocketspark.core.fit.placing import fit_of
from pocketspark.core.fit.reach import HOOK_UP_WIRE_MM
from pocketspark.core.fit.remedies import remedies_for
from pocketspark.core.fit.styles import OWN_BOX
from pocketspark.core.rules.rule import Judgement, caution, note, passed, rule, stop
from pocketspark.core.units.quantity import millimetres, percent


def fit_in_bay(chain: Chain) -> FitAnswer | None:
    """The fit of this build; None where nothing is known of the bay, or its parts go elsewhere."""
    return None if chain.build.style in OWN_BOX else fit_of(chain.project, chain.build_index)


@rule(
    "fit.does_not_fit",
    station="fit",
    source="proven by search over every way round and every side by side",
    formula="parts with 0.5 mm round boards and 10 % swell on pouches, inside the bay and apart",
    limits="clearance over the tolerance of the measurement",
)
def does_not_fit(chain: Chain) -> Iterator[Judgement]:
    """Whether all parts go into the bay with their clearances; if not, which conflict, and what must give."""
    answer = fit_in_bay(chain)
    if answer is None:
        return
    rests_on = ("gadget.bay",)
    if answer.fits == "yes":
        headline = f"{millimetres(answer.clearance_mm or 0)} of clearance beyond every clearance: it goes in"
        yield passed(headline, rests_on=rests_on, assumed=answer.assumed_bay)
        return
    if answer.fits == "too_close":
        clearance = answer.clearance_mm or 0.0
        yield caution(
            f"{clearance:+.1f} mm of clearance is too close to call: the calipers may be off by {answer.tolerance_mm:.1f} mm",
            working="Measure the tightest place again, or dry-fit before anything is cut.",
            rests_on=rests_on,
            assumed=answer.assumed_bay,
            remedy=_smallest(chain),
        )
        return
    short = "" if answer.clearance_mm is None else f"{millimetres(-answer.clearance_mm)} short on a side: "
    yield stop(
        short + " and ".join(answer.conflict[:3]) + (" do" if len(answer.conflict) > 1 else " does") + " not go in",
        working=_advice(chain),
        rests_on=rests_on,
        assumed=answer.assumed_bay,
        remedy=_smallest(chain),
    )


def _advice(chain: Chain) -> str:
    """What must give, the three smallest changes."""
    says = [given.says for given in remedies_for(chain.project, chain.build_index)[:3]]
    return "; or ".join(says) + "." if says else "No single change lets it in: a smaller cell, or parts outside."


def _smallest(chain: Chain) -> Remedy | None:
    """The smallest change that the tool can make by itself."""
    for given in remedies_for(chain.project, chain.build_index):
        if given.edits:
            return Remedy(label=given.says, edits=given.edits)
    return None


@rule(
    "fit.bay_assumed", station="fit", source="IEC 60086-2 maxima, from memory; clearance and springs, common practice"
)
def bay_assumed(chain: Chain) -> Iterator[Judgement]:
    """A bay told by the old batteries alone waits for calipers."""
    answer = fit_in_bay(chain)
    if answer is not None and answer.assumed_bay:
        length, width, height = answer.size_mm
        yield note(
            f"{length:.0f} x {width:.0f} x {height:.0f} mm of bay, told by the old batteries alone: measure it",
            working="Ribs, springs and tongues as such bays usually have them. Calipers replace each figure.",
            assumed=True,
        )


@rule("fit.size_unknown", station="fit", source="how this tool counts")
def size_unknown(chain: Chain) -> Iterator[Judgement]:
    """A part without a size is not reckoned with."""
    answer = fit_in_bay(chain)
    if answer is not None and answer.unsized:
        yield caution(f"{len(answer.unsized)} without a size, so not reckoned with: {', '.join(answer.unsized)}")


@rule("fit.socket_deep", station="fit", source="plug overmould of Type-C and Micro-B, from memory", limits="0.5 mm")
def socket_deep(chain: Chain) -> Iterator[Judgement]:
    """A socket that lies deep needs a hole for the plug's overmould, or the plug does not seat."""
    answer = fit_in_bay(chain)
    for hole in answer.openings if answer else ():
        if hole.what == "socket" and "overmould" in hole.says:
            size = f"{hole.width_mm:.1f} x {hole.height_mm:.1f} mm"
            yield note(f"{size} of hole in the {hole.side}, for the plug and not for the socket", working=hole.says)


@rule("fit.holes_meet", station="fit", source="common practice, no source", limits=f"{WEB_MM} mm of wall between two")
def holes_meet(chain: Chain) -> Iterator[Judgement]:
    """Two holes side by side must leave some wall between them, or they become one."""
    answer = fit_in_bay(chain)
    for one, other in meeting(answer.openings) if answer and answer.fits != "no" else ():
        yield caution(
            f"{WEB_MM} mm of wall is not left between the holes for {one.part} ({one.what}) and {other.part} "
            f"({other.what}) in the {one.side}",
            working="Hold one of them elsewhere along the wall, or open another wall.",
            rests_on=("gadget.bay",),
        )


@rule("fit.socket_unsupported", station="fit", source="common practice, no source")
def socket_unsupported(chain: Chain) -> Iterator[Judgement]:
    """Something behind the board must take the push of the plug."""
    answer = fit_in_bay(chain)
    for placement in answer.placements if answer and answer.fits != "no" else ():
        if placement.face_side and placement.kind == "board":
            yield note(
                f"1 stop behind {placement.part}: a glued block or rib takes the push of the plug",
                working="Without it the socket is pushed in after a month. The printed cradle has one.",
            )


@rule("fit.hot_side", station="fit", source="common practice, no source", limits="3 mm")
def hot_side(chain: Chain) -> Iterator[Judgement]:
    """A charger's warm face lies on the cell where no other place was found."""
    answer = fit_in_bay(chain)
    if answer is not None and answer.hot_against_cell:
        yield caution(
            "0 places where the charger's warm side does not look at the cell",
            working="A millimetre of air and a sheet of card between them, and a gentler current.",
        )


@rule(
    "fit.pads_shut_in",
    station="fit",
    source="common practice, no source; wire of 28 AWG with silicone, from memory",
    formula="the room left by all solids grown by half a wire is in one piece from pads to pads",
    limits=f"{HOOK_UP_WIRE_MM} mm of wire",
)
def pads_shut_in(chain: Chain) -> Iterator[Judgement]:
    """A part may fit where no wire can be led to its pads."""
    answer = fit_in_bay(chain)
    if answer is None or answer.fits == "no":
        return
    for name in answer.shut_in:
        yield caution(
            f"{HOOK_UP_WIRE_MM} mm of wire cannot be led to the pads of {name} where it lies",
            working="Solder its wires before it goes in and lead them through a notch, or a flat insulated strip where "
            "a wire is too thick; or give it room: trim what shuts it in, hold it elsewhere, put it outside.",
            rests_on=("gadget.bay",),
        )


@rule("fit.swell", station="fit", source="common practice, no source", limits=f"{percent(SWELL_SHARE)} of thickness")
def swell(chain: Chain) -> Iterator[Judgement]:
    """A pouch gets thicker over its life; the lid must never press on it."""
    answer, cell = fit_in_bay(chain), chain.cell
    if answer is None or cell.form != "pouch" or cell.size_mm is None:
        return
    grown = cell.size_mm[0] * SWELL_SHARE
    if answer.fits == "yes":
        yield passed(f"{grown:.1f} mm is left for the pouch to swell")
    else:
        yield note(
            f"{grown:.1f} mm of swell is asked for: a lid that closes only on a new cell bulges later",
            working="Nothing hard or sharp against a pouch, and no wire between pouch and lid.",
        )


@rule("fit.last_try_off", station="fit", source="the maker's own attempts")
def last_try_off(chain: Chain) -> Iterator[Judgement]:
    """A try that was off by some millimetres widens the tolerance of the next answer."""
    offs = [attempt for attempt in chain.build.record.attempts if attempt.off_mm]
    if offs:
        worst = max(offs, key=lambda attempt: attempt.off_mm or 0)
        yield note(f"{worst.off_mm:.1f} mm off in an earlier try, so clearance under that counts as too close")
