"""One object a kind, with all that it knows. Importing the core fills in the tables that the models refer to."""

from pocketspark.core.kinds import regulators

__all__ = ["regulators"]
