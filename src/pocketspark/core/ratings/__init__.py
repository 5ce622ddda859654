"""What each part is rated for. One entry is one rating, held against every state and told by its worst corner."""

from pocketspark.core.ratings import cells, leads, regulators
from pocketspark.core.ratings.rating import Bound, Rating, judged

RATINGS: list[Rating] = [*cells.RATINGS, *regulators.RATINGS, *leads.RATINGS]

__all__ = ["RATINGS", "Bound", "Rating", "judged"]
