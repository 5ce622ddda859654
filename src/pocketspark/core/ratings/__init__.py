"""What each part is rated for. One entry is one rating, held against every state and told by its worst corner."""

from pocketspark.core.ratings import cells, contacts, regulator_ratings
from pocketspark.core.ratings.rating import Bound, Rating, judged

RATINGS: list[Rating] = [*cells.RATINGS, *regulator_ratings.RATINGS, *contacts.RATINGS]

__all__ = ["RATINGS", "Bound", "Rating", "judged"]
