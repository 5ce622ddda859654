"""Rules of the station Survey."""

from pocketspark.core.rules.survey import contradictions, first_questions, own_charger, place

__all__ = ["contradictions", "first_questions", "own_charger", "place"]
