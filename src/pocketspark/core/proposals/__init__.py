"""Builds that the tool proposes by itself: every combination of parts on offer, and the few that nothing beats."""

from pocketspark.core.proposals.judging import Memory
from pocketspark.core.proposals.offer import OnOffer
from pocketspark.core.proposals.proposal import Proposal
from pocketspark.core.proposals.search import Proposals, proposals
from pocketspark.core.proposals.what_opens import Opens, what_opens
from pocketspark.core.proposals.wishes import Wishes

__all__ = ["Memory", "OnOffer", "Opens", "Proposal", "Proposals", "Wishes", "proposals", "what_opens"]
