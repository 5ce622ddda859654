"""The one build that is recommended, held against plain comparisons of the whole front."""

from hypothesis import given
from hypothesis import strategies as st

from builders import board, plan
from offers import of, proposed, small_library
from pocketspark.core.message import say
from pocketspark.core.models import Cell, Project
from pocketspark.core.models.intake import Intake
from pocketspark.core.proposals import OnOffer, Wishes
from pocketspark.core.proposals.offer import Offered
from pocketspark.core.proposals.own_parts import OwnStock, can_be_had, pieces_built_in
from pocketspark.core.proposals.proposal import Proposal
from pocketspark.core.proposals.recommendation import recommended
from pocketspark.core.questions.assess import assess

CELL = Cell(name="pouch", capacity_ah=0.9, size_mm=(5, 34, 50), charge_max_a=0.9, discharge_max_a=3, price=3)


def proposal(hours, cautions, is_protected, light, joints, price):
    words = {
        "because": say("best at something"),
        "name": "x",
        "cell": "x",
        "charger": "x",
        "others": (),
        "r_prog_ohm": 3000.0,
        "spare_mm": 1.0,
    }
    codes = tuple(f"code{n}" for n in range(cautions))
    return Proposal.model_construct(
        **words, hours=hours, days=None, full_h=3.0, price=price, joints=joints, holes=1, light_half=light, own=False,
        off_days=100.0, cautions=codes, caution_codes=codes, is_protected=is_protected, edits=(), picture=None,
        plan=plan().builds[0],
    )  # fmt: skip


PROPOSALS = st.builds(
    proposal, st.floats(1, 100), st.integers(0, 2), st.booleans(), st.none() | st.floats(0, 1), st.integers(4, 16),
    st.integers(1, 9).map(float),
)  # fmt: skip


@given(st.lists(PROPOSALS, min_size=1, max_size=9))
def test_nothing_safer_brighter_or_simpler_was_passed_over(front):
    said = recommended(front)
    first = front[said.place]
    assert first.is_protected or not any(one.is_protected for one in front)
    alike = [one for one in front if one.is_protected == first.is_protected]
    bright = [one for one in alike if one.light_half is None or one.light_half >= 0.5]
    assert not bright or first in bright
    least = min(len(one.cautions) for one in bright or alike)
    calm = [one for one in bright or alike if len(one.cautions) == least]
    assert first in calm
    long = [one for one in calm if one.hours >= 0.6 * max(other.hours for other in front)]
    assert not long or first.joints == min(one.joints for one in long)
    assert str(said.because)
    assert said.runner_up != said.place
    assert (said.runner_up is None) == (said.instead is None)


def test_a_real_front_recommends_what_nothing_speaks_against():
    project = plan(r_prog_ohm=None)
    found = proposed(project, small_library(4))
    best = found.front[found.recommended.place]
    seen = assess(project.model_copy(update={"builds": (best.plan,)}))
    assert not [one for one in seen.findings if one.level in ("stop", "caution")]


def test_usable_while_it_charges_comes_with_the_board_that_takes():
    sharing, plain = of("charger", "load sharing", most=3), of("charger", "Type-C, protection", most=2)
    offer = OnOffer([Offered(CELL)], [Offered(one) for one in (*sharing, *plain)], [], [None])
    project = plan(gadget={"window": {"v_run_min": 3.1, "v_abs_max": 6.0}}, r_prog_ohm=None)
    found = proposed(project, offer, Wishes(usable_while_charging=True))
    ways = {one.plan.use_while_charging for one in found.front}
    assert ways <= {"on_cell", "two_diodes", "load_sharing", "change_over"}
    for one in found.front:
        assert one.plan.use_while_charging != "load_sharing" or one.plan.boards[0].load_sharing
    shared = plan(gadget={"window": {"v_run_min": 3.1, "v_abs_max": 6.0}}, use_while_charging="load_sharing")
    found = proposed(shared, offer)
    assert found.front
    assert all(one.plan.boards[0].load_sharing for one in found.front)


def test_what_charges_for_days_is_not_proposed_unless_it_is_wished():
    slow = board(r_prog_ohm=None) | {"price": 1.0}
    slow["charger"] = slow["charger"] | {"rated_a": 0.02}
    project = plan(r_prog_ohm=None)
    offer = OnOffer(
        [Offered(CELL)],
        [Offered(type(project.builds[0].boards[0]).model_validate(slow | {"socket": {"kind": "type_c"}}))],
        [],
        [None],
    )
    assert not proposed(project, offer).front
    assert any("longer than a day" in str(line.reason) for line in proposed(project, offer).fell)
    assert proposed(project, offer, Wishes(full_within_h=100)).front


def test_of_own_parts_only_so_many_as_are_free():
    charger = of("charger", "Type-C, protection", most=1)[0]
    project = plan(gadget={"bay": {"rooms": [{"size_mm": [90, 80, 30]}], "wall_mm": 0.5}}, r_prog_ohm=None)
    for free in (1, 2, 3):
        offer = OnOffer([Offered(CELL, own=True, free=free)], [Offered(charger)], [], [None])
        found = proposed(project, offer)
        assert max(one.plan.cell_count for one in found.front) == free


def test_what_is_built_in_untested_or_worn_is_left_out_and_told():
    used = CELL.model_copy(update={"origin": "salvaged", "name": "from a speaker"})
    torn = used.model_copy(update={"intake": Intake(damage=("puncture",)), "name": "torn"})
    had, told = can_be_had(
        [OwnStock(CELL, 2, 1), OwnStock(CELL, 1, 1), OwnStock(used, 1), OwnStock(torn, 1), OwnStock(CELL, 0)]
    )
    assert [(one.body.name, one.free) for one in had] == [("pouch", 1)]
    assert [
        word in str(line) for word, line in zip(("used up", "not tested", "recycled", "none left"), told, strict=True)
    ]


def test_a_plan_holds_nothing_yet():
    kept = {"cell": CELL.model_dump() | {"inventory_id": 7}, "cell_count": 2}
    begun = kept | {"record": {"steps": [{"step": "photograph", "done": True}]}}
    for build, pieces in ((kept, 0), (begun, 2), (begun | {"practice": True}, 0)):
        project = Project.model_validate({"gadget": {"name": "x"}, "builds": [build]})
        assert pieces_built_in(project, 7) == pieces
        assert pieces_built_in(project, 8) == 0


def test_a_wish_for_years_keeps_out_what_serves_fewer_and_nothing_else():
    lit = {"name": "lit", "current_a": 0.06, "hours_per_day": 12}
    project = plan(gadget={"modes": [lit], "wanted_days": 0.5, "shell": {"climate": "temperate"}})
    offer = small_library()
    every = proposed(project, offer).front
    short = {one.name for one in every if one.serves_years < 9.5}
    assert short
    wished = proposed(project, offer, Wishes(serves_years=9.5)).front
    assert all(one.serves_years >= 9.5 for one in wished)
    assert {one.name for one in every} - short <= {one.name for one in wished}
