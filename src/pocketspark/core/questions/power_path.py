"""The power path in words: each link of the chain with its two or three live figures."""

from collections.abc import Iterator, Mapping, Sequence
from math import isnan, nan

from pocketspark.core.chain import Chain, Charging, ModeRun, Running
from pocketspark.core.circuit import Circuit, Corner, circuit_of
from pocketspark.core.circuit.corner_in_words import corner_in_words
from pocketspark.core.finding import Finding, Level, Node, worst
from pocketspark.core.kinds.regulators import kind_of
from pocketspark.core.message import NOTHING, Label, Message, Value, as_message, say
from pocketspark.core.models.model import Model
from pocketspark.core.units.figures import amp_hours, amps, fixed, ohms, volts


class PathNode(Model):
    """One link: its figure, a second line, the worst finding about it. `present` False: still to be chosen."""

    key: Node
    label: Label
    figure: Message
    detail: Message
    present: bool
    level: Level
    station: str


class PathLink(Model):
    """What flows from one node to the next, as short texts; empty where not known yet."""

    charging: bool
    volts: Message = NOTHING
    current: Message = NOTHING


class PathState(Model):
    """What flows in one state of the build: all five links and the gadget's own figure belong together."""

    label: Message
    says: Message
    links: tuple[PathLink, ...]
    gadget: Message


class PowerPath(Model):
    """Six nodes and the five links between them, in the usual state; and the states that it can be looked at in."""

    nodes: tuple[PathNode, ...]
    links: tuple[PathLink, ...]
    states: tuple[PathState, ...]


def power_path(chain: Chain, findings: Sequence[Finding]) -> PowerPath:
    """Draw up the chain of one build."""
    nodes = (_source(chain), _charger(chain), _cell(chain), _protection(chain), _regulator(chain), _gadget(chain))
    states = tuple(_states(chain))
    nodes = (*nodes[:-1], nodes[-1].model_copy(update={"figure": states[0].gadget}))
    judged = tuple(node.model_copy(update={"level": _level(node, findings)}) for node in nodes)
    return PowerPath(nodes=judged, links=states[0].links, states=states)


def _level(node: PathNode, findings: Sequence[Finding]) -> Level:
    about = [finding.level for finding in findings if finding.node == node.key]
    # A part still to be chosen is not a passed one; a regulator may be left out.
    return worst(about, default="pass" if node.present or node.key == "regulator" else "note")


def _node(key: Node, label: str, station: str, figure: Value, detail: Value, present: bool = True) -> PathNode:
    return PathNode(
        key=key,
        label=label,
        figure=as_message(figure),
        detail=as_message(detail),
        present=present,
        level="pass",
        station=station,
    )


def _source(chain: Chain) -> PathNode:
    source = chain.build.source
    if chain.build.who_charges == "external":
        return _node("source", "Source", "charge", "outside", "that charger's own")
    return _node(
        "source",
        "Source",
        "charge",
        volts(source.volts),
        say("{source}, {limit_a}", source=source.label, limit_a=amps(source.limit_a)),
    )


def _charger(chain: Chain) -> PathNode:
    if chain.charging is not None:
        current = chain.charging.current
        ours = say("{r_prog_ohm} {r_origin}", r_prog_ohm=ohms(current.r_prog_ohm), r_origin=current.r_origin)
        detail = ours if chain.board_charging else say("the {board}", board=chain.charging.board.name)
        return _node("charger", "Charger", "charge", amps(current.spread.nominal_a), detail)
    waits = chain.build.who_charges == "board" and chain.charger_boards
    if waits and (charger := chain.charger_boards[0].charger):
        return _node("charger", "Charger", "charge", amps(charger.rated_a), "needs a cell")
    missing = {"board": "choose a board", "gadget": "its current is not known", "external": "its current is not known"}
    return _node("charger", "Charger", "charge", "none yet", missing[chain.build.who_charges], present=False)


def _cell(chain: Chain) -> PathNode:
    chosen = chain.chosen_cell
    if chosen is None:
        return _node("cell", "Cell", "cell", "none yet", "choose a cell", present=False)
    label = chosen.cell.facts.label
    return _node(
        "cell",
        "Cell",
        "cell",
        amp_hours(chosen.capacity_ah),
        say("{count} x {label}", count=chosen.count, label=label) if chosen.count > 1 else label,
    )


def _protection(chain: Chain) -> PathNode:
    first = chain.first_to_trip
    if first is None:
        return _node("protection", "Protection", "power", "none yet", "choose one", present=False)
    cut_v = max(protection.cut_v for protection in chain.protections)
    trips = say(
        "cut-off, {trip_least_a} to {trip_most_a}",
        trip_least_a=amps(first.trip_least_a),
        trip_most_a=amps(first.trip_most_a),
    )
    return _node("protection", "Protection", "power", volts(cut_v), trips)


def _regulator(chain: Chain) -> PathNode:
    regulator = chain.regulator
    kind = kind_of(regulator)
    if regulator.kind == "none":
        return _node("regulator", "Regulator", "power", kind.label, kind.detail, present=False)
    return _node("regulator", "Regulator", "power", kind.short(regulator), regulator.name)


def _gadget(chain: Chain) -> PathNode:
    window, heaviest = chain.window, chain.heaviest
    detail = say(
        "{v_run_min} to {v_abs_max} V", v_run_min=fixed(window.v_run_min, 2), v_abs_max=fixed(window.v_abs_max, 2)
    )
    if heaviest is None:
        return _node("gadget", "Gadget", "survey", "not measured", detail)
    return _node(
        "gadget",
        "Gadget",
        "survey",
        say("{current_a} {heaviest}", current_a=amps(heaviest.current_a), heaviest=heaviest.name),
        detail,
    )


# States ----------------------------------------------------------------------------------------------------------


def _states(chain: Chain) -> Iterator[PathState]:
    """The usual one first; the others as far as the build has them."""
    yield _usual(chain)
    if chain.running is None or not chain.running.runs:
        return
    circuit = circuit_of(chain.running)
    worst = circuit.worst("cell_out_a", uses=("mode", "peak", "stalled"), feeds=("unplugged",))
    if worst is not None:
        yield _of_state(circuit, say("At its worst"), worst.corner)
    for solved in circuit.solved:
        half = solved.rest_v[len(solved.rest_v) // 2]
        used = max(solved.uses, key=lambda use: (use.kind == "mode", use.mode.current_a if use.mode else 0.0))
        if solved.feed == "plugged in":
            yield _of_state(circuit, say("Plugged in"), Corner("plugged in", used, half, "nominal"))
    unplugged = circuit.solved[0]
    asleep, half = unplugged.uses[0], unplugged.rest_v[len(unplugged.rest_v) // 2]
    yield _of_state(circuit, say("Switched off"), Corner("unplugged", asleep, half, "nominal"))


def _of_state(circuit: Circuit, label: Message, corner: Corner) -> PathState:
    at = circuit.in_corner(corner)
    charging = corner.feed == "plugged in"
    first = "regulator0" if circuit.running.chosen.regulators_in_the_way else "gadget"
    entry = ("regulator0_in_v", "regulator0_in_a") if first == "regulator0" else ("gadget_v", "gadget_a")
    into_cell = charging and at["cell_in_a"] > at["cell_out_a"]
    links = (
        _link(at if charging else {}, "board_v", "source_a", charging=True),
        _link(at if charging else {}, "cell_v", "charger_a", charging=True),
        _link(at, "cell_v", "cell_in_a" if into_cell else "cell_out_a", charging=into_cell),
        _link(at, *entry, charging=False),
        _link(at, "gadget_v", "gadget_a", charging=False),
    )
    draws = at.get("gadget_a", nan)
    mode = corner.use.mode
    gadget = say("nothing flows") if isnan(draws) or draws == 0 else as_message(amps(draws))
    if mode is not None and draws > 0:
        gadget = say("{drawn} {mode}", drawn=amps(draws), mode=mode.name)
    return PathState(label=label, says=corner_in_words(corner), links=links, gadget=gadget)


def _link(at: Mapping[str, float], volts_of: str, amps_of: str, *, charging: bool) -> PathLink:
    """Empty where there is nothing of it in this state."""
    v, a = at.get(volts_of, nan), at.get(amps_of, nan)
    return PathLink(
        charging=charging,
        volts=NOTHING if isnan(v) else as_message(volts(v)),
        current=NOTHING if isnan(a) else as_message(amps(a)),
    )


def _usual(chain: Chain) -> PathState:
    """Half way through a run of the heaviest mode, and the charger as it is set."""
    charging = _charging_links(chain.charging) if chain.charging else (PathLink(charging=True),) * 2
    running = _running_links(chain.running) if chain.running else (PathLink(charging=False),) * 3
    heaviest, run = chain.heaviest, chain.running.heaviest_run if chain.running else None
    gadget, says = say("not measured"), say("As far as the parts are chosen.")
    if heaviest is not None:
        gadget = say("{current_a} {heaviest}", current_a=amps(heaviest.current_a), heaviest=heaviest.name)
    if run is not None:
        gadget = say("{current_a} {heaviest}", current_a=amps(_halfway(run)[1]), heaviest=run.mode.name)
        says = say("Halfway through the charge, in “{mode}”.", mode=run.mode.name)
    return PathState(label=say("In use"), says=says, links=(*charging, *running), gadget=gadget)


def _halfway(run: ModeRun) -> tuple[float, float]:
    """Amperes from the cell and into the gadget at the same moment: what flows in one wire flows in the next."""
    middle = len(run.run.cell_a) // 2
    return float(run.run.cell_a[middle]), float(run.load.current(float(run.run.gadget_v[middle])))


def _charging_links(charging: Charging) -> tuple[PathLink, PathLink]:
    source, current = charging.build.source, charging.current
    current_a = current.spread.nominal_a
    drawn_a = current_a + current.source_load_a
    at_board_v = source.volts - drawn_a * source.r_cable_ohm
    outside = not charging.in_the_gadget
    return (
        PathLink(charging=True)
        if outside
        else PathLink(charging=True, volts=as_message(volts(at_board_v)), current=as_message(amps(drawn_a))),
        PathLink(charging=True, volts=as_message(volts(charging.charger.float_v)), current=as_message(amps(current_a))),
    )


def _running_links(running: Running) -> tuple[PathLink, ...]:
    span = say(
        "{most} to {least} V",
        most=fixed(running.chosen.full_v, 2),
        least=fixed(max(running.chosen.cuts.values()), 2),
    )
    heaviest = running.heaviest_run
    if heaviest is None:
        return (PathLink(charging=False, volts=span),) * 2 + (PathLink(charging=False),)
    cell_current, gadget_current = (amps(current) for current in _halfway(heaviest))
    most, least = fixed(running.gadget_v_max, 2), fixed(running.gadget_v_min, 2)
    same = round(most.value, 2) == round(least.value, 2)
    at_gadget = say("{most} V", most=most) if same else say("{most} to {least} V", most=most, least=least)
    last = PathLink(charging=False, volts=at_gadget, current=as_message(gadget_current))
    return (*(PathLink(charging=False, volts=span, current=as_message(cell_current)),) * 2, last)
