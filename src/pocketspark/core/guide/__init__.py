"""How to measure what is asked for: each way with its picture as data, and the fields that it fills."""

from pocketspark.core.guide.measurement import Guide, GuideDrawing, Lead, Symbol
from pocketspark.core.guide.part_ratings import PARTS
from pocketspark.core.guide.survey import SURVEY

GUIDES: tuple[Guide, ...] = (*SURVEY, *PARTS)

__all__ = ["GUIDES", "Guide", "GuideDrawing", "Lead", "Symbol"]
