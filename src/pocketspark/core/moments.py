"""Moments of a record as they are written: "2026-11-25T18:30Z", "2026-11-25". Nobody here asks a clock."""

from datetime import UTC, datetime, timedelta


def moment_of(text: str) -> datetime:
    """The moment that is written so; what is left out of it is nought."""
    return datetime.fromisoformat(text.removesuffix("Z")).replace(tzinfo=UTC)


def hours_between(earlier: str, later: str) -> float:
    """Negative where the clock ran backwards meanwhile."""
    return (moment_of(later) - moment_of(earlier)).total_seconds() / 3600


def day_after(text: str, days: float) -> str:
    """The day that lies so many days after this moment: "2026-11-25"."""
    return (moment_of(text) + timedelta(days=min(days, 36_500))).date().isoformat()
