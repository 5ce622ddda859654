"""What comes of one cause is told as one, with what to do; cautions stand where the work is."""

import networkx as nx
import pytest

from builders import CELL, board, judged
from chances import dice
from pocketspark.core.finding import GRAVITY, Finding
from pocketspark.core.kinds.stations import STATIONS
from pocketspark.core.rules import RULES
from pocketspark.core.rules.causes import together, with_their_cause

# A plan, what is done about the cause by hand, and the codes that it shows itself in: all of them go at once, which
# is what makes them one (facts of the trade: one resistor, one measurement, one regulator, one wire).
BOARD_AS_DELIVERED = {"r_prog_ohm": 1200, "boards": [board(r_prog_ohm=1200)], "source": {"kind": "usb2"}}
CAUSES = {
    "resistor": (
        BOARD_AS_DELIVERED | {"cell": CELL | {"capacity_ah": 0.2, "size_mm": [4, 20, 30]}},
        {"r_prog_ohm": 27_000, "boards": [board(r_prog_ohm=27_000)]},
        {"charge.over_cell", "charge.over_policy", "charge.over_source"},
    ),
    "never measured": (
        {"gadget": {"bay": None}},
        {"gadget": {"bay": {"rooms": [{"size_mm": [80, 60, 20]}]}}},
        {"fit.bay_assumed", "fit.does_not_fit"},
    ),
    "too many volts": (
        {"gadget": {"window": {"v_run_min": 2, "v_abs_max": 3.1}, "front_end": "heater", "behind": {"design_v": 3.0}}},
        {"regulator": {"kind": "ldo", "v_set": 3.0}},
        {"power.over_window", "power.stress_heater"},
    ),
}


@pytest.mark.parametrize(("changes", "mended", "codes"), CAUSES.values(), ids=CAUSES)
def test_what_one_change_mends_is_told_as_one(changes, mended, codes):
    seen = judged(**changes).findings
    of_it = [finding for finding in seen if finding.code in codes and finding.level != "pass"]
    assert {finding.code for finding in of_it} == codes
    (head,) = (finding for finding in of_it if not finding.part_of)
    assert {finding.part_of for finding in of_it if finding is not head} == {head.id}
    assert all(GRAVITY[finding.level] <= GRAVITY[head.level] for finding in of_it)
    after = {f.code for f in judged(**changes | mended).findings if f.level != "pass"}
    assert not codes & after


def drawn(chance):
    """Any of the rules' findings together, of any level: more than a build could ever raise."""
    levels = list(GRAVITY)
    codes = chance.sample(sorted(RULES), chance.randint(0, 40))
    return [
        Finding(id=f"{code}.0", code=code, station="fit", node="cell", level=chance.choice(levels), headline="x.")
        for code in codes
    ]


@pytest.mark.parametrize("seed", range(60))
def test_nothing_is_lost_or_told_twice_by_being_told_together(seed):
    findings = drawn(dice(seed))
    groups = together(findings)
    told = [finding for head, others in groups for finding in (head, *others)]
    assert sorted(f.id for f in told) == sorted(f.id for f in findings if f.level != "pass")
    gravities = [GRAVITY[head.level] for head, _ in groups]
    assert gravities == sorted(gravities, reverse=True)
    assert all(GRAVITY[one.level] <= GRAVITY[head.level] for head, others in groups for one in others)
    # The groups are what is joined, however far, by the table of what follows from what.
    links = nx.Graph([(rule.code, other) for rule in RULES.values() for other in rule.follows])
    links = links.subgraph([finding.code for finding in told])
    joined = {frozenset(group) for group in nx.connected_components(links)}
    several = {frozenset(f.code for f in (head, *others)) for head, others in groups if others}
    assert several == {group for group in joined if len(group) > 1}
    by_id = {finding.id: finding for finding in with_their_cause(findings)}
    assert all(not by_id[finding.part_of].part_of for finding in by_id.values() if finding.part_of)


def test_cautions_stand_where_the_work_is():
    seen = {station: {str(c.text) for c in judged().cautions if station in c.stations} for station in STATIONS}
    assert all(seen.values())
    assert any("Alkaline" in text for text in seen["survey"])
    assert not any("Alkaline" in text for station, texts in seen.items() if station != "survey" for text in texts)
    assert any("Solder fumes" in text for text in seen["wire"] & seen["build"])
    assert all(any("Local rules" in text for text in texts) for texts in seen.values())
