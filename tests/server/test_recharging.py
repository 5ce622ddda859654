"""A build that is done comes back in time: on the shelf, on the bench clock when it is due, in the calendar file."""

from datetime import UTC, datetime, timedelta

from icalendar import Calendar

from builders import plan
from pocketspark.core.steps import procedure


def finished(client, name, charged):
    """Every step done within its limits, and its last full charge at that moment."""
    bare = plan()
    steps = [
        {"step": step.key, "done": True, "value": _within(step.hold), "origin": "typed", "at": "2026-01-01T10:00Z"}
        for step in procedure(bare, 0).steps
    ]
    document = plan(steps=steps, charged_at=charged).model_dump(mode="json")
    document["gadget"]["name"] = name
    return client.post("/api/projects", json=document).raise_for_status().json()["id"]


def _within(hold):
    if hold is None:
        return None
    low, high = hold.low, hold.high
    return low * 1.2 if high is None else high / 2 if low is None else (low + high) / 2


def moment(days_ago):
    return (datetime.now(UTC) - timedelta(days=days_ago)).strftime("%Y-%m-%dT%H:%MZ")


def test_what_is_done_is_charged_again_in_time(client):
    lately, long_ago = finished(client, "Lately", moment(3)), finished(client, "Long ago", moment(800))
    lines = {line["id"]: line["summary"]["recharge"] for line in client.get("/api/projects").json()}
    today = f"{datetime.now(UTC):%Y-%m-%d}"
    assert lines[lately]["by"] > today > lines[long_ago]["by"]
    on_the_bench = {one["job"] for one in client.get("/api/clock").json()["timeline"]["due"]}
    assert "Long ago" in on_the_bench
    assert "Lately" not in on_the_bench
    events = Calendar.from_ical(client.get("/api/clock/calendar").content).walk("VEVENT")
    begins = {str(event["SUMMARY"]).split(":")[0]: event["DTSTART"].dt for event in events}
    assert f"{begins['Lately']:%Y-%m-%d}" >= lines[lately]["by"]
    assert begins["Long ago"] - datetime.now(UTC) < timedelta(days=2)
