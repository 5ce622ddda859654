"""The bench clock as a calendar file (iCalendar, RFC 5545), with a reminder where something was waited for."""

from datetime import UTC, datetime, timedelta
from uuid import NAMESPACE_URL, uuid5

from icalendar import Alarm, Calendar, Event

from pocketspark.core.clock import Due, Timeline

_PRODUCT = "-//Pocket Spark//bench clock//EN"


def to_ics(timeline: Timeline, now: datetime) -> bytes:
    """One event a task; what waits says since when. A task keeps its identity in every export."""
    calendar = Calendar()
    calendar.add("prodid", _PRODUCT)
    calendar.add("version", "2.0")
    for due in timeline.due:
        calendar.add_component(_event(due, now))
    written: bytes = calendar.to_ical()
    return written


def _event(due: Due, now: datetime) -> Event:
    event = Event()
    event.add("uid", str(uuid5(NAMESPACE_URL, f"{due.page} {due.job} {due.step}")))
    event.add("dtstamp", now.astimezone(UTC))
    event.add("dtstart", due.begins.astimezone(UTC))
    event.add("dtend", due.ends.astimezone(UTC))
    event.add("summary", f"{due.job}: {due.title}")
    if due.waits_from:
        stays = "stay near it" if due.attended else "it goes by itself"
        event.add("description", f"Waits since {due.waits_from:%d %b %H:%M}: {stays}.")
        event.add_component(_reminder(due))
    return event


def _reminder(due: Due) -> Alarm:
    reminder = Alarm()
    reminder.add("action", "DISPLAY")
    reminder.add("description", due.title)
    reminder.add("trigger", timedelta(0))
    return reminder
