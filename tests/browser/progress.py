"""Waiting for long work: as long as it goes on, however slow the machine is; what stands still fails."""

import re
import time

from playwright.sync_api import expect

STANDS_STILL_S = 60.0


def goes_on_to(status, wanted):
    """The line that tells how far it has got comes to hold `wanted`."""
    shown, until = "", time.monotonic() + STANDS_STILL_S
    while not re.search(wanted, shown):
        status.page.wait_for_timeout(100)
        now = status.text_content() or ""
        if now != shown:
            shown, until = now, time.monotonic() + STANDS_STILL_S
        alerts = status.page.get_by_role("alert").all_text_contents()
        assert time.monotonic() < until, f"for {STANDS_STILL_S:.0f} s it has stood still at: {shown} {alerts}"


def saved(page):
    """What was typed is stored by now, as the header says."""
    expect(page.get_by_text(re.compile(r"Saved \d\d:\d\d"))).to_be_visible()


def comes_true(page, holds, within_s=20.0):
    """What is asked of the server, again and again."""
    until = time.monotonic() + within_s
    while not holds():
        assert time.monotonic() < until, f"not within {within_s:.0f} s"
        page.wait_for_timeout(100)
