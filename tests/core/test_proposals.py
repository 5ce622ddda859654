"""Proposals against brute force: every build of a small library judged one by one by `assess` and `fit`, and the front
taken of what is sound by comparing all pairs. Nothing of the search is used but what parts it was given."""

import itertools
import math
from dataclasses import replace

import numpy as np
import pytest

from builders import board, plan
from chances import FULL, dice, in_turn
from offers import proposed, small_library
from pocketspark.core.chain import Chain
from pocketspark.core.chosen.prices import price_of_parts
from pocketspark.core.fit.placing import fit_of
from pocketspark.core.kinds.stations import STATIONS
from pocketspark.core.models import Board, Cell
from pocketspark.core.models.build import ExternalCharger, Input
from pocketspark.core.proposals import Memory, OnOffer, Wishes, proposals, what_opens
from pocketspark.core.proposals.in_question import in_question
from pocketspark.core.proposals.judging import Search
from pocketspark.core.proposals.offer import Offered, grouped, in_order
from pocketspark.core.proposals.proposal import weighed_one
from pocketspark.core.proposals.ways import ways_of
from pocketspark.core.questions.assess import assess
from pocketspark.core.rules import RULES
from pocketspark.core.wiring.cutlist import cut_list
from pocketspark.demo import demo_projects


def every_build(project, offer):
    """Each as a maker would set it: the resistor that the tool suggests for the board as it is."""
    for cell, charger, count, policy, regulator in itertools.product(
        offer.cells, offer.chargers, (1, 2, 3), ("gentle", "label"), offer.regulators
    ):
        protected = cell.body.own_protection or charger.body.protection
        for separate in [None] if protected else offer.protections:
            boards = [one.body for one in (charger, separate, regulator) if one is not None]
            changes = {
                "cell": cell.body,
                "cell_count": count,
                "boards": tuple(one.model_copy(update={"id": f"board{n}"}) for n, one in enumerate(boards, 1)),
                "policy": policy,
                "r_prog_ohm": None,
            }
            build = project.builds[0].model_copy(update=changes)
            tried = project.model_copy(update={"builds": (build,)})
            price = cell.body.price * count + sum(one.price or 0 for one in boards)
            # Two diodes, or a switch, are bought with it (rough prices, our own).
            price += {"two_diodes": 0.2, "change_over": 0.6}.get(build.use_while_charging, 0)
            yield tried, round(price, 2)


# V at rest, half full: the published sets named in docs/sources.md.
OCV_AT_HALF = {"li_4v20": 3.793, "li_4v35": 3.810, "lfp": 3.277}


def tenths(hours):
    """So many steps of a tenth from one hour."""
    return round(math.log(hours, 1.1))


def steps_below(figure, steps):
    return sum(figure >= step for step in steps)


def joints_and_holes(project):
    """Both ends of every wire of the cut list; a hole for each socket of ours, lamp and lever."""
    build, chain = project.builds[0], Chain(project, 0)
    socket = build.who_charges == "board" and build.input.kind in ("board_socket", "wired_socket")
    holes = socket + len(build.small_parts)
    return 2 * len(cut_list(chain)) + holes


def light_half_way(project):
    """Of LEDs behind a resistor what is left of the design's current, at the volts of half a charge; else all."""
    gadget = project.gadget
    if gadget.front_end != "led_resistor":
        return 1.0
    running = Chain(project, 0).required_running()
    at_half = OCV_AT_HALF[project.builds[0].cell.cell_class]
    volts = running.gadget_v_at(at_half, max(running.runs, key=lambda run: run.mode.current_a).load)
    return max(volts - gadget.led_forward_v, 0) / (gadget.design_v - gadget.led_forward_v)


def share_that_is_lit(project, mode):
    """Of the hours of LEDs behind a resistor, those with half of the design's current: the charge in small steps."""
    gadget = project.gadget
    if gadget.front_end != "led_resistor":
        return 1.0
    chain = Chain(project, 0)
    running = chain.required_running()
    [run] = [one for one in running.runs if one.mode.name == mode.name]
    soc = np.linspace(float(run.run.soc[0]), float(run.run.soc[-1]), 4001)
    point = running.chosen.regulator_law.operating_point(running.chosen.curve.at(soc), running.chosen.all_ohm, run.load)
    step_h = -np.diff(soc) / ((point.cell_a[1:] + point.cell_a[:-1]) / 2)
    lit = (point.gadget_v[1:] - gadget.led_forward_v) / (gadget.design_v - gadget.led_forward_v) >= 0.5
    return float(step_h[lit].sum() / step_h.sum())


def sound_figures(project, price):
    """Hours of service, price, hours to full, joints and holes; how long it lasts off, the light, and the room,
    by the steps that anybody notices. Of a build that nothing stops and that goes in, else None."""
    if project.builds[0].who_charges == "board":
        first = assess(project)
        fitted = project.builds[0].model_copy(update={"r_prog_ohm": first.charge.suggested.r_ohm})
        project = project.model_copy(update={"builds": (fitted,)})
    seen = assess(project)
    answer = fit_of(project)
    goes_in = answer.fits in ("yes", "too_close") and answer.clearance_mm >= 0
    full_h = seen.charging.hours if seen.charging else None
    if seen.worst == "stop" or not goes_in or not full_h or full_h > 24:
        return None
    build = project.builds[0]
    if build.use_while_charging == "load_sharing" and not any(one.load_sharing for one in build.boards):
        return None
    mode = max(project.gadget.modes, key=lambda mode: mode.hours_per_day)
    run = next(one for one in seen.run.modes if one.name == mode.name)
    hours = float(run.hours) * share_that_is_lit(project, mode)
    if hours <= 0:
        return None
    return (
        -tenths(hours),
        math.ceil(round(price * 100) / 50) / 2,
        tenths(float(full_h)),
        joints_and_holes(project),
        -steps_below(float(seen.run.standby_days), (30, 91, 182, 365)),
        -steps_below(light_half_way(project), (0.5,)),
        # A box of its own is made half a millimetre larger than need be.
        -steps_below(0.5 if project.builds[0].style == "outside_pack" else answer.clearance_mm, (0.3, 1.0, 2.0)),
    )


def front(figures):
    return {
        one
        for one in figures
        if not any(all(a <= b for a, b in zip(other, one, strict=True)) and other != one for other in figures)
    }


GADGETS = {
    "lamp": {
        "front_end": "led_resistor",
        "bay": {"rooms": [{"size_mm": [66, 40, 13]}], "wall_mm": 0.5},
        "window": {"v_run_min": 3.05, "v_abs_max": 5.1},
    },
    "roomy": {"bay": {"rooms": [{"size_mm": [90, 60, 22]}], "wall_mm": 0.5}},
    "tight": {"bay": {"rooms": [{"size_mm": [66, 40, 11]}], "wall_mm": 0.5}},
    "narrow window": {
        "bay": {"rooms": [{"size_mm": [80, 50, 16]}], "wall_mm": 0.5},
        "window": {"v_run_min": 2.9, "v_abs_max": 3.7},
    },
}


@pytest.mark.parametrize("kind", in_turn(list(GADGETS), 1))
def test_the_same_front_as_by_trying_every_build(kind):
    large = FULL and kind == "roomy"
    most = 3 if kind == "lamp" else 6 if large else 5
    project, offer = plan(gadget=GADGETS[kind], r_prog_ohm=None), small_library(most, large=large)
    found = proposed(project, offer)
    assert not large or found.builds >= 3000
    tried = list(every_build(project, offer))
    assert found.builds == len(tried)
    sound = {figures for one in tried if (figures := sound_figures(*one)) is not None}
    ours = {sound_figures(project.model_copy(update={"builds": (one.plan,)}), one.price) for one in found.front}
    print(f"{kind}: {len(tried)} builds, {len(sound)} different sound ones, {len(ours)} on the front")
    assert None not in ours  # what is taken says at every station what the proposal said
    assert ours == front(sound)
    assert sum(line.count for line in found.fell) + len(found.front) >= len(tried) - len(sound)


def other_ways(project, **choices):
    """The project with every combination of these fields of its build."""
    for values in itertools.product(*choices.values()):
        build = project.builds[0].model_copy(update=dict(zip(choices, values, strict=True)))
        yield project.model_copy(update={"builds": (build,)})


def test_what_may_be_otherwise_is_tried_in_every_way():
    bay = {"rooms": [{"size_mm": [66, 40, 13]}], "wall_mm": 0.5, "lid_raise_mm": 1.5}
    pegs = [{"name": "peg", "at_mm": [20, 15, 0], "size_mm": [3, 3, 13], "state": "trim"}]
    project = plan(gadget={"bay": bay | {"obstacles": pegs}}, r_prog_ohm=None)
    whole = small_library(2)
    offer = OnOffer(whole.cells, whole.chargers[:2], whole.protections[:1], whole.regulators[:2])
    inputs = [Input(kind=kind) for kind in ("board_socket", "wired_socket", "dock", "wireless")]
    styles = ["inside", "rebuilt_shell", "outside_pack"]
    if project.gadget.supply.kind == "cells" and project.gadget.supply.size.form == "stick":
        styles += ["stand_in", "dummy_cell"]
    wished = {
        "any_way_in": {"input": inputs},
        "any_switch": {"switch_place": ["gadget", "before_regulator", "enable"]},
        "usable_while_charging": {"use_while_charging": ["on_cell", "two_diodes", "load_sharing", "change_over"]},
        "any_style": {"style": styles},
        "reversible": {"style": styles[1:]},
    }
    for wish, choices in in_turn(list(wished.items()), 1):
        found = proposed(project, offer, Wishes(**{wish: True}))
        tried = [one for way in other_ways(project, **choices) for one in every_build(way, offer)]
        assert found.builds == len(tried), wish
        sound = {figures for one in tried if (figures := sound_figures(*one)) is not None}
        ours = {sound_figures(project.model_copy(update={"builds": (one.plan,)}), one.price) for one in found.front}
        assert sound, wish
        assert ours == front(sound), wish
    for wishes, changes in (
        ({"trim": True}, {"obstacles": []}),
        ({"lid_mm": 1.0}, {"lid_raised_mm": 1.0}),
        ({"lid_mm": 9.0}, {"lid_raised_mm": 1.5}),  # not more than it may be
    ):
        found = proposed(project, offer, Wishes(**wishes)).front
        other = plan(gadget={"bay": bay | {"obstacles": pegs} | changes}, r_prog_ohm=None)
        assert {one.hours for one in found} == {one.hours for one in proposed(other, offer).front}
        for one in found:
            taken = project.model_copy(update={"builds": (one.plan,)}).apply(one.edits)
            assert fit_of(taken).clearance_mm == one.spare_mm


def every_build_without_a_board(project, offer, chargers):
    """On each of these chargers, one outside or the gadget's own, as its build says it."""
    for cell, charger, count, regulator in itertools.product(offer.cells, chargers, (1, 2, 3), offer.regulators):
        for separate in [None] if cell.body.own_protection else offer.protections:
            boards = [one.body for one in (separate, regulator) if one is not None]
            changes = {
                "cell": cell.body,
                "cell_count": count,
                "boards": tuple(one.model_copy(update={"id": f"board{n}"}) for n, one in enumerate(boards, 1)),
                "r_prog_ohm": None,
                "input": Input(),
            }
            build = project.builds[0].model_copy(update=changes | charger)
            price = cell.body.price * count + sum(one.price or 0 for one in boards)
            price += charger["external_charger"].price if "external_charger" in charger else 0
            yield project.model_copy(update={"builds": (build,)}), round(price, 2)


FULL_V = {"li_4v20": 4.2, "lfp": 3.6}


def full_v_of(project):
    return FULL_V[project.builds[0].cell.cell_class]


@pytest.mark.parametrize("own", [False, True])
def test_what_charges_elsewhere_is_tried_as_well(own):
    gadget = {"bay": {"rooms": [{"size_mm": [66, 40, 13]}], "wall_mm": 0.5}}
    if own:
        gadget["supply"] = {"kind": "lithium", "own_charger": {"current_a": 0.3}}
    project, whole = plan(gadget=gadget, r_prog_ohm=None), small_library(3)
    offer = OnOffer(whole.cells, whole.chargers[:2], whole.protections[:1], whole.regulators[:2])
    outside = [
        {
            "who_charges": "external",
            "cell_lead": "common_plug",
            "external_charger": ExternalCharger(current_a=current_a, float_v=ends_v, price=price),
        }
        for current_a, price in ((0.25, 5.0), (0.5, 6.0), (1.0, 8.0))
        for ends_v in {FULL_V[cell.body.cell_class] for cell in offer.cells}
    ]
    chargers = [*outside, *([{"who_charges": "gadget"}] if own else [])]
    found = proposed(project, offer, Wishes(any_charger=True))
    tried = [*every_build(project, offer), *every_build_without_a_board(project, offer, chargers)]
    assert found.builds == len(tried)
    # A charger for another class of cell leaves most of it empty, and is none for it.
    suited = [one for one in tried if one[0].builds[0].external_charger.float_v in (None, full_v_of(one[0]))]
    sound = {figures for one in suited if (figures := sound_figures(*one)) is not None}
    ours = {sound_figures(project.model_copy(update={"builds": (one.plan,)}), one.price) for one in found.front}
    assert ours == front(sound)
    ways = {one.plan.who_charges for one in found.front}
    assert ways > ({"gadget"} if own else {"external"})
    for one in found.front:
        taken = project.model_copy(update={"builds": (one.plan,)})
        assert price_of_parts(one.plan) == pytest.approx(one.price, abs=0.011)
        assert assess(taken).worst != "stop"


def test_what_is_to_be_usable_while_it_charges_is_not_taken_out_to_be_charged():
    gadget = {"bay": {"rooms": [{"size_mm": [90, 60, 22]}], "wall_mm": 0.5}}
    project, whole = plan(gadget=gadget, r_prog_ohm=None), small_library(2)
    offer = OnOffer(whole.cells, whole.chargers[:2], whole.protections[:1], whole.regulators[:2])
    found = proposed(project, offer, Wishes(any_charger=True, usable_while_charging=True))
    assert found.front
    assert {one.plan.who_charges for one in found.front} == {"board"}


def test_a_build_that_is_charged_outside_stays_so_unless_it_is_wished_otherwise():
    gadget = {"bay": {"rooms": [{"size_mm": [90, 60, 22]}], "wall_mm": 0.5}}
    there = {"current_a": 0.4, "float_v": 4.2}
    project, offer = plan(gadget=gadget, who_charges="external", external_charger=there, boards=[]), small_library(2)
    for one in proposed(project, offer).front:
        assert one.plan.who_charges == "external"
        assert one.plan.external_charger == project.builds[0].external_charger
        assert one.price == price_of_parts(one.plan)


def test_of_a_cell_in_many_shapes_the_best_is_found():
    """Against every shape as a cell of its own."""
    sizes = [(4, 30, 50), (5, 30, 40), (6, 25, 40), (7.5, 20, 40), (9, 20, 33), (3, 40, 50), (11, 20, 27)]
    cells = [Cell(name=f"{size}", capacity_ah=0.6, size_mm=size, charge_max_a=0.6, price=3.0) for size in sizes]
    cells += [Cell(name=f"{size}", capacity_ah=0.4, size_mm=size, charge_max_a=0.4, price=2.0) for size in sizes[2:4]]
    offer = small_library(1)
    for kind in ("tight", "roomy"):
        project = plan(gadget=GADGETS[kind], r_prog_ohm=None)
        whole = proposed(project, replace(offer, cells=[Offered(cell) for cell in cells]))
        shaped = proposed(project, replace(offer, cells=[], sized=grouped(cells)), Wishes(any_size=True))
        assert len(grouped(cells)) == 2
        assert shaped.builds == whole.builds
        assert {tuple(weighed_one(one)) for one in shaped.front} == {tuple(weighed_one(one)) for one in whole.front}
        for found in (shaped, whole):
            assert sum(line.count for line in found.fell) + len(found.front) == found.builds


def test_what_was_found_out_before_changes_no_answer():
    project, offer, memory = plan(gadget=GADGETS["tight"], r_prog_ohm=None), small_library(3), Memory()
    for wishes in (Wishes(), Wishes(no_regulator=True), Wishes(no_cautions=True), Wishes(any_switch=True), Wishes()):
        *_, again = proposals(project, 0, offer, wishes, memory)
        assert again.front == proposed(project, offer, wishes).front
    assert list(proposals(project, 0, offer, Wishes(own_parts_only=True), memory))[-1].front == ()


def test_from_own_parts_alone_the_resistor_lies_there_too():
    project, offer = plan(gadget=GADGETS["roomy"], r_prog_ohm=None), small_library(2)
    own = replace(
        offer,
        cells=[Offered(cell.body, own=True) for cell in offer.cells],
        chargers=[Offered(charger.body, own=True) for charger in offer.chargers],
        protections=[Offered(one.body, own=True) for one in offer.protections],
    )
    free = {one.r_prog_ohm for one in proposed(project, replace(own, regulators=[None])).front}
    drawer = [ohm * 1.3 for ohm in free]
    kept = proposed(project, replace(own, resistors_ohm=drawer), Wishes(own_parts_only=True)).front
    assert kept
    assert {one.r_prog_ohm for one in kept} <= set(drawer)
    assert all(one.own for one in kept)


def test_what_is_bought_already_stays_and_costs_nothing():
    project = plan(gadget=GADGETS["roomy"], r_prog_ohm=None)
    build = project.builds[0]
    assert build.cell.name not in {part.body.name for part in small_library().cells}
    kept = proposed(project, small_library(2), Wishes(keep_cell=True))
    assert {one.plan.cell for one in kept.front} == {build.cell}
    for one in kept.front:
        assert one.price == pytest.approx(sum(board.price or 0 for board in one.plan.boards), abs=0.006)
    both = proposed(project, small_library(2), Wishes(keep_cell=True, keep_charger=True))
    assert {one.charger for one in both.front} == {build.boards[0].name}
    assert min(one.price for one in both.front) == 0


def test_what_one_change_opens_is_what_the_search_then_finds():
    project, offer = plan(gadget=GADGETS["tight"], r_prog_ohm=None), small_library(3)
    now_h = max(one.hours for one in proposed(project, offer).front)
    *looks, opened = what_opens(project, 0, offer, Wishes(), now_h, Memory())
    assert len(looks) > 3 * len(opened)  # a search that is left can end within each of them
    by_what = {str(one.says): one for one in opened}
    assert {"Type-C only", "no regulator", "with the lid raised by 1 mm"} <= set(by_what)
    raised = project.gadget.bay.model_copy(update={"lid_raised_mm": 1.0})
    higher = project.model_copy(update={"gadget": project.gadget.model_copy(update={"bay": raised})})
    for says, tried, wishes in (
        ("with the lid raised by 1 mm", higher, Wishes()),
        ("no regulator", project, Wishes(no_regulator=True)),
        ("Type-C only", project, Wishes(type_c_only=True)),
    ):
        then_h = max((one.hours for one in proposed(tried, offer, wishes).front), default=0.0)
        assert by_what[says].more_h == pytest.approx(then_h - now_h, abs=0.002), says
    assert str(by_what["your own alone"].sentence) == "nothing is left"  # there are none
    # no more than it may be raised
    low = plan(gadget=GADGETS["tight"] | {"bay": GADGETS["tight"]["bay"] | {"lid_raise_mm": 0.5}}, r_prog_ohm=None)
    *_, opened = what_opens(low, 0, small_library(1), Wishes(), 1.0, Memory())
    assert [one.wishes for one in opened if "lid" in str(one.says)] == [{"lid_mm": 0.5}]


def test_what_is_proposed_is_what_the_stations_say():
    project = plan(gadget=GADGETS["roomy"], r_prog_ohm=None)
    for one in proposed(project, small_library()).front:
        seen = assess(project.model_copy(update={"builds": (one.plan,)}))
        assert seen.charge.hours == pytest.approx(one.full_h, abs=1e-3)
        assert tuple(str(f.headline) for f in seen.findings if f.level == "caution") == tuple(map(str, one.cautions))
        assert seen.worst != "stop"


def test_how_the_parts_are_listed_does_not_matter():
    """Steps that are noticed, and no pairs compared: which of like builds stands for the others hangs on them alone."""
    project, offer = plan(gadget=GADGETS["roomy"], r_prog_ohm=None), small_library()
    first = [one.plan for one in proposed(project, offer).front]
    thrown = dice("listed")
    for _ in range(2):
        listed = [thrown.sample(parts, len(parts)) for parts in (offer.cells, offer.chargers, offer.protections)]
        regulators = thrown.sample(offer.regulators, len(offer.regulators))
        assert [one.plan for one in proposed(project, OnOffer(*listed, regulators)).front] == first


def test_what_lasts_hardly_longer_and_costs_more_is_no_proposal():
    """40.8 h for 0.6 more money and four more joints does not beat 40.7 h: a tenth more is noticed."""
    gadget = {"bay": {"rooms": [{"size_mm": [90, 60, 22]}], "wall_mm": 0.5}}
    cells = [
        Cell(name=f"{ah}", capacity_ah=ah, size_mm=(6, 30, 45), charge_max_a=ah, price=price)
        for ah, price in ((0.800, 3.0), (0.805, 3.9), (0.93, 3.9))
    ]
    found = proposed(plan(gadget=gadget, r_prog_ohm=None), replace(small_library(1), cells=[*map(Offered, cells)]))
    assert {one.plan.cell.name for one in found.front} == {"0.8", "0.93"}


def test_wishes_are_kept():
    project, offer = plan(gadget=GADGETS["roomy"]), small_library()
    all_of_them = proposed(project, offer).front
    dear = max(one.price for one in all_of_them)
    cheap = proposed(project, offer, Wishes(price_at_most=dear - 1))
    assert {one.price <= dear - 1 for one in cheap.front} == {True}
    plain = proposed(project, offer, Wishes(no_regulator=True, no_cautions=True))
    assert all(not one.cautions and not one.plan.regulator for one in plain.front)
    assert all(len(one.plan.boards) <= 2 for one in plain.front)
    soon = proposed(project, offer, Wishes(full_within_h=2.5, hours_at_least=5))
    assert all(one.full_h <= 2.5 and one.hours >= 5 for one in soon.front)
    own = Offered(Board.model_validate(board(socket={"kind": "type_c"})), own=True)
    mine = OnOffer([Offered(offer.cells[0].body, own=True)], [own], [], [None])
    both = OnOffer([*offer.cells, *mine.cells], [*offer.chargers, *mine.chargers], offer.protections, offer.regulators)
    kept = proposed(project, both, Wishes(own_parts_only=True))
    assert all(one.own and one.price == 0 for one in kept.front)


def test_cautions_may_be_fine_all_the_same():
    project, offer = plan(gadget=GADGETS["tight"], r_prog_ohm=None), small_library(3)
    every = proposed(project, offer)
    strict = proposed(project, offer, Wishes(no_cautions=True))
    assert not every.minded
    assert strict.minded
    assert len(strict.front) < len(every.front)
    codes = {code for one in every.front for code in one.caution_codes}
    assert codes <= set(RULES)
    assert proposed(project, offer, Wishes(no_cautions=True, fine_cautions=sorted(codes))).front == every.front
    one = next(iter(sorted(codes)))
    for found in proposed(project, offer, Wishes(no_cautions=True, fine_cautions=(one,))).front:
        assert set(found.caution_codes) <= {one}


def test_what_fell_is_told_by_its_station():
    found = proposed(plan(gadget=GADGETS["narrow window"]), small_library())
    by_station = {}
    for line in found.fell:
        by_station.setdefault(line.station, []).append(str(line.reason))
    assert set(by_station) <= {"", *STATIONS}
    assert "it gives the gadget more volts than it can take" in by_station["power"]
    assert "it does not fit into the bay" in by_station["fit"]
    assert all("another sound build" in reason for reason in by_station[""])


def test_a_board_that_is_bought_stays():
    whole = small_library(2)
    kept = {"regulator": whole.regulators[1].body, "protection": whole.protections[1].body}
    boards = [board.model_copy(update={"id": name}) for name, board in kept.items()]
    project = plan(gadget=GADGETS["roomy"], r_prog_ohm=None)
    build = project.builds[0].model_copy(update={"boards": (*project.builds[0].boards, *boards)})
    project = project.model_copy(update={"builds": (build,)})
    found = proposed(project, whole, Wishes(keep_regulator=True, keep_protection=True)).front
    assert found
    for one in found:
        assert kept["regulator"].name in one.others
        assert whole.protections[0].body.name not in one.others


def test_the_named_ones_are_what_they_are_called():
    found = proposed(plan(gadget=GADGETS["roomy"]), small_library()).front
    named = {reason: one for one in found for reason in str(one.because).split(", ") if reason}
    assert named["longest"].hours == max(one.hours for one in found)
    assert named["cheapest"].price == min(one.price for one in found)
    assert named["soonest full"].full_h == min(one.full_h for one in found)


def test_hours_in_the_dark_are_no_hours():
    project = plan(gadget=GADGETS["lamp"], r_prog_ohm=None)
    found = proposed(project, small_library()).front
    shares = [one.light_half for one in found]
    # A diode before it stretches the hours by leaving a tenth of the light: nothing is proposed for that.
    assert min(shares) >= 0.5
    bright = next(one for one in found if "longest of the bright ones" in str(one.because))
    assert bright.hours == max(one.hours for one in found if one.light_half >= 0.5)
    wished = proposed(project, small_library(), Wishes(bright=True)).front
    assert wished
    assert all(one.light_half >= 0.5 for one in wished)
    motor = proposed(plan(gadget=GADGETS["tight"] | {"front_end": "motor"}), small_library()).front
    assert all(one.light_half is None for one in motor)


def test_a_gadget_without_a_current_has_no_proposals():
    assert list(proposals(plan(gadget={"modes": []}), 0, small_library())) == []


def test_of_many_ways_it_is_told_how_far_it_has_got_and_millions_of_drafts_stay_small():
    project, wishes = demo_projects()[0], Wishes(any_way_in=True, any_style=True)
    ways = ways_of(project, 0, wishes)
    states = list(proposals(project, 0, small_library(), wishes))
    builds = [state.builds for state in states if state.front]
    assert len(set(builds)) >= len(ways) > 10
    assert builds[1:] == sorted(builds[1:])
    search = Search(ways, project.gadget.modes[0], in_order(small_library()), wishes, Memory())
    question = in_question(search)
    kept = question.columns, question.figures, question.weights, question.left
    assert sum(column.nbytes for column in kept) <= 100 * len(question.left)  # bytes: millions of rows are in question
    assert question.outlines.columns is question.columns
