"""Bays and their batteries found in photographs that are drawn layer by layer, against what was drawn."""

import numpy as np
import pytest

from bay_photographs import BLOCK, HEIGHT, STICKS, WIDTH, photograph
from chances import FULL, SEED
from pocketspark.core.photographs.bay_finder import bay_in
from pocketspark.core.photographs.card import card_in
from pocketspark.core.photographs.marks import CardCorners, PicturePoint
from pocketspark.core.questions.bay_picture import proposed_bay

# The same few each time, but in a full run: shares of so few would be a matter of luck.
PICTURES, DRAWN = (150, int(SEED)) if FULL else (6, 611822)
USUAL = ("LR6", "LR03")


def found_in(drawn):
    """By its card, found too; by where it was drawn, where it is not."""
    known = tuple(PicturePoint(x=x / WIDTH, y=y / HEIGHT) for x, y in np.clip(drawn.card, 0, (WIDTH, HEIGHT)))
    return bay_in(drawn.picture, card_in(drawn.picture) or CardCorners(corners=known))


def corners_off_mm(drawn, bay):
    seen = np.array([(corner.x * WIDTH, corner.y * HEIGHT) for corner in bay.corners])
    ways = [np.roll(order, turn, axis=0) for order in (seen, seen[::-1]) for turn in range(4)]
    px_per_mm = np.hypot(*(drawn.bay[1] - drawn.bay[0])) / drawn.bay_mm[0]
    return min(np.hypot(*(way - drawn.bay).T).max() for way in ways) / px_per_mm


@pytest.mark.parametrize(("names", "least_named"), [(USUAL, 0.6), ((*STICKS, BLOCK[0]), 0.35)])
def test_batteries_are_counted_and_named_and_their_bay_measured(names, least_named):
    named = counted = 0
    offs, corners = [], []
    for number in range(PICTURES):
        drawn = photograph(np.random.default_rng([DRAWN, len(names), number]), (0, 10, 20)[number % 3], names)
        found = found_in(drawn)
        if found is None or found.battery != drawn.name:
            continue
        named += 1
        counted += len(found.batteries) == len(drawn.batteries)
        corners.append(corners_off_mm(drawn, found.bay))
        offs.append(np.abs(np.sort([found.bay.length_mm, found.bay.width_mm]) / np.sort(drawn.bay_mm) - 1).max())
    says = f"lengths off by {np.median(offs):.1%} in the median, {np.percentile(offs, 90):.1%} at nine of ten"
    print(f"{PICTURES} of {names}: {named} named, {counted} counted; {says}; corners by {np.median(corners):.1f} mm")
    assert named >= least_named * PICTURES
    assert counted >= 0.6 * named
    assert np.median(offs) < 0.1
    assert np.median(corners) < 5.0


def test_an_empty_bay_has_no_batteries():
    """Some may be taken for one: flat and dull, as a floor is."""
    false = 0
    for number in range(PICTURES // 2):
        drawn = photograph(np.random.default_rng([DRAWN, 77, number]), 10, USUAL, empty=True)
        found = found_in(drawn)
        false += found is not None and found.battery is not None
    assert false <= max(1, PICTURES // 6)


def test_what_was_seen_is_proposed_and_takes_no_word_for_more():
    drawn = photograph(np.random.default_rng([3, 3]), 10, ("LR6",))
    assert len(drawn.batteries) == 2
    proposed = proposed_bay(found_in(drawn))
    assert str(proposed.says) == "2 batteries are seen in it: AA (LR6)."
    assert {edit.path: edit.value for edit in proposed.edits} == {
        "gadget.supply.kind": "cells",
        "gadget.supply.battery": "LR6",
        "gadget.supply.series": 2,
        "gadget.supply.parallel": 1,
    }
    seen = [np.array([(c.x * WIDTH, c.y * HEIGHT) for c in one.corners]) for one in proposed.found.batteries]
    ends = sorted(seen, key=lambda one: one[:, 0].mean()), sorted(drawn.batteries, key=lambda one: one[:, 0].mean())
    for one, true in zip(*ends, strict=True):
        assert np.hypot(*(one.mean(axis=0) - true.mean(axis=0))) < 0.1 * np.hypot(*(true[2] - true[0]))


def test_where_nothing_lies_nothing_is_found():
    flat = np.full((HEIGHT, WIDTH), 120, np.uint8)
    corners = tuple(PicturePoint(x=x, y=y) for x, y in ((0.1, 0.8), (0.4, 0.8), (0.4, 0.55), (0.1, 0.55)))
    assert bay_in(flat, CardCorners(corners=corners)) is None


def test_odd_pictures_and_cards_that_lie_steeply_are_no_fault():
    chance = np.random.default_rng([int(SEED), 5])
    answers = []
    for number in range(60 if FULL else 8):
        grey = np.clip(chance.normal(120, 60, (240, 320)).cumsum(axis=number % 2) / 9 % 256, 0, 255).astype(np.uint8)
        near, far = chance.uniform(0.5, 1.0), chance.uniform(0.02, 0.4)
        middle, top = chance.uniform(0.3, 0.7), chance.uniform(0.0, 0.5)
        shares = (
            (middle - near / 2, 0.95),
            (middle + near / 2, 0.95),
            (middle + far / 2, top),
            (middle - far / 2, top),
        )
        spots = tuple(PicturePoint(x=min(max(x, 0.0), 1.0), y=y) for x, y in shares)
        answers.append(bay_in(grey, CardCorners(corners=spots)))
    assert all(one is None or len(one.bay.corners) == 4 for one in answers)
