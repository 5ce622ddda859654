"""A build with its fit: what rules and steps about the bay are asked with."""

from dataclasses import dataclass

from pocketspark.core.chain import Chain
from pocketspark.core.fit.answer import FitAnswer
from pocketspark.core.fit.placing import fit_of

# What every finding about a fit rests on.
IN_BAY = ("gadget.bay",)


@dataclass(frozen=True)
class FittedBuild:
    """A build, and where its parts lie in the bay."""

    chain: Chain
    answer: FitAnswer

    @property
    def goes_in(self) -> bool:
        """It does, or it is too close to call."""
        return self.answer.fits in ("yes", "too_close")


def fitted_build(chain: Chain) -> FittedBuild | None:
    """None where nothing is known of the bay, nothing has a size, or the parts go elsewhere."""
    if chain.build.facts_of_style.own_box:
        return None
    answer = fit_of(chain.project, chain.build_number)
    return None if answer is None else FittedBuild(chain, answer)
