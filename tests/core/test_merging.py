"""Two devices on one conversion: what each did alone is there, nothing of either is lost, and a collision is named.

The reference plays the two devices by the document's own edits: one after the other on one document is what both at
once have to come to, wherever they touch different things.
"""

import pytest

from builders import board, plan
from chances import dice
from pocketspark.core.merging import BothChanged, in_words, merged
from pocketspark.core.models.project import Edit

MODES = [
    {"id": "bright", "name": "bright", "current_a": 0.1, "hours_per_day": 1},
    {"id": "dim", "name": "dim", "current_a": 0.02, "hours_per_day": 2},
]
BASE = plan(gadget={"modes": MODES}, boards=[board()])
BUILD = f"builds.{BASE.builds[0].id}"

EDITS = [
    Edit(path="gadget.name", value="other"),
    Edit(path="gadget.modes.bright.current_a", value=0.2),
    Edit(path="gadget.modes.bright.hours_per_day", value=3),
    Edit(path="gadget.modes.dim.current_a", value=0.03),
    Edit(path="gadget.modes.+", value={"id": "off", "name": "off", "current_a": 1e-5}),
    Edit(path=f"{BUILD}.r_prog_ohm", value=2200.0),
    Edit(path=f"{BUILD}.source.volts", value=5.1),
    Edit(path=f"{BUILD}.record.steps", value=[{"step": "survey", "done": True}]),
    Edit(path=f"{BUILD}.pins.+", value={"part": "board", "side": "left"}),
    Edit(path="notes", value="a note"),
    Edit(path="tags", value=["lamp"]),
]


@pytest.mark.parametrize("seed", range(60))
def test_both_at_once_come_to_one_after_the_other(seed):
    chance = dice(seed)
    chosen = chance.sample(EDITS, chance.randint(2, len(EDITS)))
    cut = chance.randint(1, len(chosen) - 1)
    mine, theirs = BASE.apply(chosen[:cut]), BASE.apply(chosen[cut:])
    in_turn = BASE.apply(chosen)
    for together in (merged(BASE, mine, theirs), merged(BASE, theirs, mine)):
        assert together.model_dump() == in_turn.model_dump()


def test_a_row_that_one_takes_away_goes_and_the_others_change_stays():
    without = BASE.apply([Edit(path="gadget.modes.dim", value=None)])
    brighter = BASE.apply([Edit(path="gadget.modes.bright.current_a", value=0.3)])
    together = merged(BASE, without, brighter)
    assert [(mode.id, mode.current_a) for mode in together.gadget.modes] == [("bright", 0.3)]


def test_of_what_was_not_said_before_each_says_a_part():
    lowest, highest = ({"v_run_min": 4.0, "v_abs_max": None}, {"v_run_min": None, "v_abs_max": 7.0})
    base = BASE.apply([Edit(path="gadget.window", value=None)])
    mine, theirs = (base.apply([Edit(path="gadget.window", value=window)]) for window in (lowest, highest))
    window = merged(base, mine, theirs).gadget.window
    assert (window.v_run_min, window.v_abs_max) == (4.0, 7.0)


def test_lines_that_both_add_are_all_kept():
    lines = [{"at": f"2026-11-0{day}", "kind": "note", "station": "build", "text": str(day)} for day in (1, 2, 3)]
    base = BASE.apply([Edit(path="logbook", value=lines[:1])])
    mine, theirs = (base.apply([Edit(path="logbook", value=[lines[0], line])]) for line in lines[1:])
    assert [str(entry.text) for entry in merged(base, mine, theirs).logbook] == ["1", "3", "2"]


@pytest.mark.parametrize(
    ("one", "other", "where"),
    [
        (("gadget.name", "one"), ("gadget.name", "other"), "gadget.name"),
        (("gadget.modes.dim", None), ("gadget.modes.dim.current_a", 0.5), "gadget.modes.dim"),
        (("tags", ["a"]), ("tags", ["b", "c"]), None),
    ],
)
def test_what_both_changed_is_nobodys_to_decide(one, other, where):
    mine, theirs = (BASE.apply([Edit(path=path, value=value)]) for path, value in (one, other))
    if where is None:
        assert set(merged(BASE, mine, theirs).tags) == {"a", "b", "c"}
        return
    with pytest.raises(BothChanged) as told:
        merged(BASE, mine, theirs)
    assert told.value.places == (where,)


@pytest.mark.parametrize(
    ("place", "words"),
    [
        ("gadget.modes.{mode_id}.current_a", "modes “{mode}” current"),
        ("gadget.window.v_run_min", "window lowest volts"),
        ("builds.{build_id}.r_prog_ohm", "“{build}” charge-current resistor"),
        ("gadget.bay.rooms.room1.size_mm", "bay rooms room1 size"),
        ("notes", "notes"),
        ("gadget.modes.gone.current_a", "modes gone current"),
    ],
)
def test_a_place_is_told_as_a_maker_finds_it(place, words):
    document = BASE.model_dump(mode="json")
    mode, build = document["gadget"]["modes"][0], document["builds"][0]
    place = place.format(mode_id=mode["id"], build_id=build["id"])
    assert in_words(document, place) == words.format(mode=mode["name"], build=build["name"])


def test_two_changes_that_are_sound_alone_and_not_together_collide():
    bay = {"rooms": [{"size_mm": [40, 20, 10]}], "lid_raise_mm": 5}
    base = plan(gadget={"bay": bay})
    mine = base.apply([Edit(path="gadget.bay.lid_raise_mm", value=2)])
    theirs = base.apply([Edit(path="gadget.bay.lid_raised_mm", value=4)])
    with pytest.raises(BothChanged):
        merged(base, mine, theirs)
