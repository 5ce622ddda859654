"""Choosing from our own pick fields: the list is the browser's own."""

import re


def picked(place, label):
    """What a field shows as chosen."""
    return place.locator(".pick").filter(has=place.get_by_role("combobox", name=label, exact=True)).locator(".told")


def choose(place, label, option):
    """The first one whose words hold these."""
    box = place.get_by_role("combobox", name=label, exact=True)
    box.wait_for()
    texts = box.get_by_role("option", include_hidden=True).all_inner_texts()
    wanted = option if isinstance(option, re.Pattern) else re.compile(re.escape(option), re.IGNORECASE)
    box.select_option(index=next(number for number, text in enumerate(texts) if wanted.search(text)))
