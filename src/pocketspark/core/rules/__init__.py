"""What we think of it: one module or package a station, each rule a small function that owns all of itself."""

from pocketspark.core.rules import cell, charge, fit, power, rating_rules, survey, wire
from pocketspark.core.rules.rule import RULES, Rule, findings_of

__all__ = ["RULES", "Rule", "cell", "charge", "findings_of", "fit", "power", "rating_rules", "survey", "wire"]
