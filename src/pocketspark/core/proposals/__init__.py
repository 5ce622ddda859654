"""Builds that the tool proposes by itself: every combination of parts on offer, and the few that nothing beats."""

from pocketspark.core.proposals.offer import OnOffer, Wishes
from pocketspark.core.proposals.search import Proposal, Proposals, proposals

__all__ = ["OnOffer", "Proposal", "Proposals", "Wishes", "proposals"]
