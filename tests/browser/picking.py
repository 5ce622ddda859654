"""Choosing from our own pick fields, as a keyboard does."""

from playwright.sync_api import expect


def picked(place, label):
    """What a field shows as chosen."""
    page = getattr(place, "page", place)
    return place.locator(".pick").filter(has=page.get_by_role("combobox", name=label, exact=True))


def choose(place, label, option):
    """The list opens on Enter, whatever floats over it meanwhile."""
    page = getattr(place, "page", place)
    box = place.get_by_role("combobox", name=label, exact=True)
    box.scroll_into_view_if_needed()
    box.press("Enter")
    page.get_by_role("option", name=option).first.click()
    expect(page.get_by_role("option", name=option).first).to_be_hidden()
