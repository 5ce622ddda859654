"""What we think of it: one module a station, each rule a small function with a code."""

from pocketspark.core.rules import cell, charge, power, survey
from pocketspark.core.rules.rule import RULES, Rule, findings_of

__all__ = ["RULES", "Rule", "cell", "charge", "findings_of", "power", "survey"]
