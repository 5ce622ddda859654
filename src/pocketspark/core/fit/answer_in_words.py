"""The answer of a fit in one sentence, for the findings, the page and the command line."""

from pocketspark.core.fit.answer import NOWHERE, FitAnswer
from pocketspark.core.message import Message, _, all_of, say
from pocketspark.core.units.figures import millimetres

# Of more parts in conflict only these are named.
MOST_NAMED = 3


def in_words(answer: FitAnswer) -> Message:
    """Whether it goes in, and by how much it does or does not."""
    if answer.fits in NOWHERE:
        return _no(answer)
    if answer.fits == "not_certain":
        return say("A place was found for everything, but a second check objects: {doubt}.", doubt=answer.doubts[0])
    spare, off = millimetres(answer.clearance_mm or 0.0), millimetres(answer.tolerance_mm)
    if answer.fits == "yes":
        return say("Everything fits, with {spare} to spare beyond every clearance.", spare=spare)
    if spare.value >= 0:
        return say("Too close to call: {spare} to spare, and the calipers can be off by {off}.", spare=spare, off=off)
    big = millimetres(-spare.value)
    return say("Too close to call: {big} too big, and the calipers can be off by {off}.", big=big, off=off)


def _no(answer: FitAnswer) -> Message:
    parts, by = all_of(answer.conflict[:MOST_NAMED]), answer.clearance_mm
    if answer.assumed_bay:
        # Nobody has measured it: what does not go into a guess may well go into the gadget.
        if not parts:
            return say("Measure the bay: judged by its old batteries alone, this does not fit.")
        return say("Measure the bay: judged by its old batteries alone, {parts} would not fit.", parts=parts)
    if not answer.proven:
        return _by(
            by,
            say("Not settled in the time: no way has been found yet to fit {parts}.", parts=parts),
            _("Not settled in the time: no way has been found yet to fit {parts}, which is too big by {by} on a side."),
            parts,
        )
    if answer.shapes:
        return _by(
            by,
            say(
                "No place was found for {parts}. Round walls are searched in steps, which can cost up to a millimetre.",
                parts=parts,
            ),
            _(
                "No place was found for {parts}, too big by {by} on a side. Round walls are searched in steps, "
                "which can cost up to a millimetre."
            ),
            parts,
        )
    if len(answer.conflict) > 1:
        together = say("It does not fit: there is no room for {parts} together.", parts=parts)
        return _by(by, together, _("It does not fit: {parts} together are too big by {by} on a side."), parts)
    alone = say("It does not fit: there is no room for {parts}.", parts=parts)
    return _by(by, alone, _("It does not fit: {parts} is too big by {by} on a side."), parts)


def _by(short_mm: float | None, unknown: Message, known: str, parts: Message) -> Message:
    """The one where nobody knows how far it is from fitting, the other with how far."""
    return unknown if short_mm is None else say(known, parts=parts, by=millimetres(-short_mm))
