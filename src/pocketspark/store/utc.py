"""Moments as the database keeps them: UTC without saying so."""

from datetime import UTC, datetime


def now() -> datetime:
    return datetime.now(UTC).replace(tzinfo=None)


def as_utc(naive: datetime) -> datetime:
    return naive.replace(tzinfo=UTC)
