"""Moments of a record as they are written: "2026-11-25T18:30Z", "2026-11-25". Nobody here asks a clock."""

from datetime import UTC, datetime


def moment_of(text: str) -> datetime:
    """The moment that is written so; what is left out of it is nought."""
    return datetime.fromisoformat(text.removesuffix("Z")).replace(tzinfo=UTC)


def hours_between(earlier: str, later: str) -> float:
    """Negative where the clock ran backwards meanwhile."""
    return (moment_of(later) - moment_of(earlier)).total_seconds() / 3600
