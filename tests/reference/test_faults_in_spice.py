"""A rating that is really passed is told, and one that is not is left in peace, in every state.

Into random sound builds faults are put by their physical meaning (`faults_to_put_in.py`). Whether one passes a rating
a circuit simulator says, which solves all states of the faulty build for itself; the judge must say the same. The
table is printed (-rP), and kept in docs/checks.md.
"""

from collections import Counter

from any_build import random_build
from faults_to_put_in import CHANGES, KINDS, set_to
from pydantic import ValidationError
from simulated_states import every_state

from chances import FULL, same_dice
from pocketspark.core.chain import Chain
from pocketspark.core.finding import GRAVITY
from pocketspark.core.models import Project
from pocketspark.core.rules import findings_of

BUILDS = 100 if FULL else 12
# Of what the simulator finds, what a part is rated for: too little by a third, by a tenth; enough; plenty.
FAULTS, SOUND = (0.67, 0.9), (1.34, 2.0)
FRONT_ENDS = ("regulator", "motor", "heater", "lamp", "led_resistor", "logic")
LEAST = 1e-3


def any_build_with_a_peak(chance):
    """Random builds of every kind, whose gadget says what is behind its terminals."""
    project = random_build(chance)
    mode = project.gadget.modes[0]
    said = {
        "gadget.modes.0.peak_a": round(mode.current_a * chance.uniform(1.2, 3), 4),
        "gadget.modes.0.law": mode.law,
        "gadget.modes.0.at_v": mode.at_v or 4.5,
        "gadget.front_end": chance.choice(FRONT_ENDS),
        "gadget.behind.led_v": 2.0,
        "builds.0.who_charges": chance.choice(["board"] * 5 + ["external"]),
        "builds.0.external_charger.current_a": 0.5,
    }
    if project.gadget.existing_charging.treatment == "diode":
        said["gadget.existing_charging.adapter_v"] = chance.choice([6.0, 9.0])
    for path, value in said.items():
        project = project.with_value(path, value)
    return sound_document(project)


def sound_document(project):
    return Project.model_validate(project.model_dump(mode="json"))


def with_limit(kind, project, limit):
    """None where no such part can be said."""
    try:
        return sound_document(kind.limited(project, limit))
    except (ValidationError, ValueError):
        return None


def level_of(project, codes):
    found = findings_of(Chain(project, 0), codes)
    return max((GRAVITY[finding.level] for finding in found), default=0)


def test_one_part_that_is_rated_for_too_little():
    chance, table = same_dice(41), Counter()
    for number in range(BUILDS):
        project = any_build_with_a_peak(chance)
        chain = Chain(project, 0)
        states, unsettled = every_state(chain)
        for kind in KINDS:
            truth = kind.measured(chain, states)
            if truth is None or truth < LEAST:
                continue
            for share in FAULTS:
                faulty = with_limit(kind, project, truth / share if kind.least else truth * share)
                if faulty:
                    told = level_of(faulty, kind.codes) >= GRAVITY[kind.level]
                    count(table, kind.name, "fault", "false calm", told, (number, share, truth, described(chain)))
            # What cannot be carried asks for more than anything here has measured.
            for share in SOUND if not unsettled else ():
                enough = share * kind.margin
                sound = with_limit(kind, project, truth / enough if kind.least else truth * enough)
                if sound:
                    calm = level_of(sound, kind.codes) < GRAVITY[kind.level]
                    count(table, kind.name, "sound", "false alarm", calm, (number, share, truth, described(chain)))
    report(table, [kind.name for kind in KINDS])


def test_a_change_that_asks_too_much_of_the_parts_there_are():
    chance, table = same_dice(42), Counter()
    for number in range(BUILDS):
        project = any_build_with_a_peak(chance)
        chain = Chain(project, 0)
        states, _ = every_state(chain)
        rated = {}
        for kind in KINDS:
            truth = kind.measured(chain, states)
            limit = truth and (truth / SOUND[0] / kind.margin if kind.least else truth * SOUND[0] * kind.margin)
            # Two kinds speak of one figure of the protection: the larger one is its rating.
            larger = kind.limited.__name__ != "_trip" or limit is None or limit > max(trips(rated), default=0)
            fitted = with_limit(kind, project, limit) if limit and truth >= LEAST and larger else None
            if fitted:
                project, rated[kind] = fitted, limit
        for kind in rated:
            if kind.limited.__name__ == "_trip":
                rated[kind] = max(trips(rated))
        for name in ("nothing", *some_changes(chance)):
            changed = sound_document(CHANGES[name](project))
            judge_all(table, name, changed, rated, number)
    report(table, CHANGES)


def test_what_only_a_worn_cell_passes_is_a_caution():
    chance, asked = same_dice(43), 0
    for _ in range(BUILDS * 2):
        project = set_to("builds.0.regulator", {"kind": "boost", "v_set": 9.0})(any_build_with_a_peak(chance))
        project = project.with_value("builds.0.use_while_charging", "off")
        kind = next(kind for kind in KINDS if "cell.over_discharge_rating" in kind.codes)
        new, worn = (
            kind.measured(chain, every_state(chain)[0])
            for chain in (Chain(project, 0), Chain(project.with_value("builds.0.aged", True), 0))
        )
        if (
            new
            and worn
            and worn > new * 1.06
            and not every_state(Chain(project.with_value("builds.0.aged", True), 0))[1]
        ):
            between = with_limit(kind, project, (new + worn) / 2)
            assert level_of(between, kind.codes) == GRAVITY["caution"]
            asked += 1
    assert asked


def some_changes(chance):
    every = [name for name in CHANGES if name != "nothing"]
    return every if FULL else chance.sample(every, 5)


def trips(rated):
    return [limit for kind, limit in rated.items() if kind.limited.__name__ == "_trip"]


def judge_all(table, name, project, rated, number):
    """Every part's rating in the changed build, against what the simulator finds in it."""
    chain = Chain(project, 0)
    states, unsettled = every_state(chain)
    shares = {}
    for kind, limit in rated.items():
        truth = kind.measured(chain, states)
        # A part that was replaced has another rating, or none.
        if truth is not None and truth >= LEAST and with_limit(kind, project, limit) == project:
            shares[kind] = (truth / limit if kind.least else limit / truth) / kind.margin
    for kind, share in shares.items():
        seen = (number, kind.name, round(share, 3), described(chain))
        level = level_of(project, kind.codes)
        # One code may speak of several figures of a part.
        others = [other for other in shares if other is not kind and set(other.codes) & set(kind.codes)]
        if share * kind.margin < FAULTS[1]:
            count(table, name, "fault", "false calm", level >= GRAVITY[kind.level], seen)
        elif min(share, *(shares[other] for other in others), 99) > SOUND[0] * 0.999 and not unsettled:
            count(table, name, "sound", "false alarm", level < GRAVITY[kind.level], seen)


def described(chain):
    return chain.build.use_while_charging, [one.kind for one in chain.regulators], chain.build.switch_place


def count(table, name, asked, wrong, right, seen):
    table[name, asked] += 1
    if not right:
        table[name, wrong] += 1
        print(wrong, name, *seen)


def report(table, names):
    wrong = {"false calm": 0, "false alarm": 0}
    for name in names:
        faults, calm, sound, alarm = (table[name, what] for what in ("fault", "false calm", "sound", "false alarm"))
        print(f"{name:50} {faults:5} faults, {calm:3} calm; {sound:5} sound, {alarm:3} alarms")
        wrong["false calm"] += calm
        wrong["false alarm"] += alarm
    asked = sum(number for (_, what), number in table.items() if what == "sound")
    assert wrong["false calm"] == 0
    assert wrong["false alarm"] <= asked / 100
