"""How far this tool's own predictions were off, by kind, over all builds that were proven."""

from collections import defaultdict
from collections.abc import Iterable, Sequence

import numpy as np

from pocketspark.core.message import Message, say, say_of
from pocketspark.core.models import Project
from pocketspark.core.models.model import Model
from pocketspark.core.questions.as_built import BuiltFigure, as_built
from pocketspark.core.units.figures import percent, signed_percent
from pocketspark.core.units.reading import METRIC

# Fewer builds than this say nothing of a tool (our judgement).
BUILDS_NEEDED = 10
CLOSE_SHARE = 0.10


class MeasuredError(Model):
    """One figure of one build: `off_share` is measured over planned less one."""

    gadget: str
    planned: Message
    measured: Message
    off_share: float


class ErrorsOfKind(Model):
    """One kind of figure over all builds. `bias`: the median with its sign; `usual`: the median without it."""

    what: Message
    count: int
    bias: Message
    usual: Message
    worst: Message
    close: Message
    errors: tuple[MeasuredError, ...]


class PredictionErrors(Model):
    """All kinds, those of the most builds first. `enough`: there are builds enough to go by."""

    headline: Message
    builds: int
    enough: bool
    kinds: tuple[ErrorsOfKind, ...]


def prediction_errors(proven: Iterable[tuple[Project, int]]) -> PredictionErrors:
    """Of these builds, each proven or finished with reservations."""
    found: dict[str, list[tuple[str, BuiltFigure]]] = defaultdict(list)
    builds = 0
    for project, build in proven:
        builds += 1
        for figure in as_built(project, build):
            found[figure.what.text(METRIC)].append((project.gadget.name, figure))
    kinds = sorted((_of_kind(figures) for figures in found.values()), key=lambda one: (-one.count, str(one.what)))
    enough = builds >= BUILDS_NEEDED
    return PredictionErrors(
        headline=say_of(builds, "One build was measured to its end", "{count} builds were measured to their end")
        if enough
        else say("{builds} of {needed} builds: too few to go by yet", builds=str(builds), needed=str(BUILDS_NEEDED)),
        builds=builds,
        enough=enough,
        kinds=tuple(kinds),
    )


def _of_kind(figures: Sequence[tuple[str, BuiltFigure]]) -> ErrorsOfKind:
    off = np.array([figure.off_share for _, figure in figures])
    worst = float(off[np.argmax(np.abs(off))])
    return ErrorsOfKind(
        what=figures[0][1].what,
        count=len(off),
        bias=say("{bias}", bias=signed_percent(float(np.median(off)))),
        usual=say("{usual}", usual=percent(float(np.median(np.abs(off))))),
        worst=say("{worst}", worst=signed_percent(worst)),
        close=say(
            "{close} of {count} within {share}",
            close=str(int(np.sum(np.abs(off) <= CLOSE_SHARE + 1e-9))),
            count=str(len(off)),
            share=percent(CLOSE_SHARE),
        ),
        errors=tuple(
            MeasuredError(gadget=name, planned=figure.planned, measured=figure.built, off_share=figure.off_share)
            for name, figure in figures
        ),
    )
