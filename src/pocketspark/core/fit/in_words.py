"""The answer of a fit in one sentence, for the findings, the page and the command line."""

from pocketspark.core.fit.answer import FitAnswer
from pocketspark.core.units.figures import millimetres

# Of more parts in conflict only these are named.
MOST_NAMED = 3


def in_words(answer: FitAnswer) -> str:
    """Whether it goes in, and by how much it does or does not."""
    if answer.fits == "no":
        return _no(answer)
    if answer.fits == "not_certain":
        return f"A place was found for everything, but it does not stand a second look: {answer.doubts[0]}."
    spare = millimetres(answer.clearance_mm or 0.0)
    if answer.fits == "yes":
        return f"It all goes in, with {spare} to spare beyond every clearance."
    how = f"there are {spare} to spare" if spare.value >= 0 else f"it is {millimetres(-spare.value)} too big"
    return f"Too close to call: {how}, and the calipers may be off by {millimetres(answer.tolerance_mm)}."


def _no(answer: FitAnswer) -> str:
    names = " and ".join(answer.conflict[:MOST_NAMED])
    if answer.assumed_bay:
        # Nobody has measured it: what does not go into a guess may well go into the gadget.
        return f"Measure the bay: by its old batteries alone, {names or 'this'} would not go in."
    how_far = "" if answer.clearance_mm is None else f", too big by {millimetres(-answer.clearance_mm)} on a side"
    if not answer.proven:
        return f"Not settled in the time: so far no way was found to put {names} in{how_far}."
    if answer.shapes:
        steps = "round walls are searched in steps, which may cost up to a millimetre"
        return f"No place was found for {names}{how_far}; {steps}."
    several = len(answer.conflict) > 1
    return f"It does not fit: {names} {'do' if several else 'does'} not go in{' together' if several else ''}{how_far}."
