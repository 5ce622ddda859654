"""Choosing from our own pick fields: the list is the browser's own."""

import re


def picked(place, label):
    """What a field shows as chosen."""
    page = getattr(place, "page", place)
    return place.locator(".pick").filter(has=page.get_by_role("combobox", name=label, exact=True)).locator(".told")


def choose(place, label, option):
    """The first one whose words hold these."""
    box = place.get_by_role("combobox", name=label, exact=True)
    offered = box.locator("option")
    offered.filter(has_text=option).first.wait_for(state="attached")
    wanted = option if isinstance(option, re.Pattern) else re.compile(re.escape(option), re.IGNORECASE)
    texts = [text.strip() for text in offered.all_text_contents()]
    box.select_option(index=next(number for number, text in enumerate(texts) if wanted.search(text)))


def to_page(page, name):
    """A page beside the stations, by the header; on a phone it is behind one button."""
    link = page.get_by_role("link", name=name)
    if link.first.is_visible():
        link.first.click()
    else:
        page.get_by_role("button", name="More", exact=True).click()
        page.get_by_role("button", name=name, exact=True).click()
