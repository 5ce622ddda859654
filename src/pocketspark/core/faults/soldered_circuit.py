"""The build as it is soldered: every pad a node, every wire and part a branch, each fault a change of one.

Pads that are one piece of copper are one node. The cases of a question are rows of the same circuit.
"""

from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from functools import cached_property

import numpy as np

from pocketspark.core.chain import Chain
from pocketspark.core.chain.old_charger import BODY, old_charger
from pocketspark.core.faults import laws
from pocketspark.core.faults.barriers import Barriers, Guard, Mask
from pocketspark.core.faults.fault import Fault, FaultKind
from pocketspark.core.faults.network import Branch, Law
from pocketspark.core.faults.situation import FaultSituation
from pocketspark.core.hookup.hookup import HookUp, hook_up
from pocketspark.core.hookup.wired_parts import WiredPart
from pocketspark.core.kinds.regulators import SCHOTTKY, kind_of, law_of_regulator, most_given_a
from pocketspark.core.kinds.wires import carries_a, ohm_per_m
from pocketspark.core.models import Board, Cell, Regulator
from pocketspark.core.models.wiring import Wire
from pocketspark.core.physics import regulator_laws
from pocketspark.core.physics.ocv import Floats
from pocketspark.core.wiring.cutlist import BOARDS, CutWire, cut_list

Case = tuple[Fault | None, FaultSituation]
# Ohms of a track that is there already, of a bridge of solder or a closed contact, and of a load-sharing transistor
# (common practice, no source).
PRESENT_OHM, BRIDGE_OHM, SHARING_OHM = 0.005, 0.01, 0.05
# A port lets through so many times what it may give before it switches off (common practice, no source).
PORT_TIMES = 2.0
# With a short for its resistor a chip gives so many times what it is rated for (common practice: its own limit).
CHIP_TIMES = 1.5
SOURCE, OLD_ADAPTER, GADGET, SHORT = "source", "old adapter", "gadget", "short"


def wire_name(wire: Wire) -> str:
    return f"{wire.start} {wire.end}"


@dataclass
class Nodes:
    """Numbers of nodes, by pads that are one with them. The first that is asked for is the reference, 0."""

    parent: dict[str, str] = field(default_factory=dict)
    numbers: dict[str, int] = field(default_factory=dict)

    def join(self, first: str, second: str) -> None:
        self.parent[self._root(first)] = self._root(second)

    def of(self, pad: str) -> int:
        return self.numbers.setdefault(self._root(pad), len(self.numbers))

    def _root(self, pad: str) -> str:
        while self.parent.setdefault(pad, pad) != pad:
            pad = self.parent[pad]
        return pad


@dataclass(frozen=True)
class Soldered:
    """One build, to be solved with any faults in any situations. Raises MissingPart before a cell is chosen."""

    chain: Chain

    @cached_property
    def hookup(self) -> HookUp:
        return hook_up(self.chain)

    @cached_property
    def boards(self) -> Mapping[str, Board]:
        keys = [key for key, part in self.hookup.parts.by_key.items() if part.kind in BOARDS]
        return dict(zip(keys, self.chain.build.boards, strict=False))

    @cached_property
    def cells(self) -> Mapping[str, Cell]:
        return dict(zip(self.hookup.parts.cells, self.chain.build.cells, strict=True))

    @cached_property
    def guards(self) -> tuple[Guard, ...]:
        """The protections, those at the cells themselves first: those are nearest."""
        own = [
            Guard(key, cell.protection, f"{key}.bare+", f"{key}.bare-")
            for key, cell in self.cells.items()
            if cell.protection is not None
        ]
        on_boards = [
            Guard(key, board.protection, f"{key}.B+", f"{key}.B-")
            for key, board in self.boards.items()
            if board.protection is not None and "B-" in self.hookup.parts.by_key[key].pads
        ]
        return (*own, *on_boards)

    @cached_property
    def _cut(self) -> Mapping[tuple[str, str], CutWire]:
        return {(one.start, one.end): one for one in cut_list(self.chain)}

    @cached_property
    def wire_bears_a(self) -> Mapping[str, float]:
        """What each wire that is cut for the build can carry, by the name of its branch."""
        cut = ((wire, self._cut.get((wire.start, wire.end))) for wire in self.hookup.wires)
        return {wire_name(wire): carries_a(one.awg) for wire, one in cut if one is not None}

    def wire_ohm(self, wire: Wire) -> float:
        one = self._cut.get((wire.start, wire.end))
        return PRESENT_OHM if one is None else max(ohm_per_m(one.awg) * one.length_mm / 1000, 1e-3)

    @cached_property
    def nodes(self) -> Nodes:
        """Every pad has its number; the cell's own minus is the reference."""
        nodes = Nodes()
        for part in self.hookup.parts.by_key.values():
            for first, second in part.joined:
                if not (self._feeds_inside(part) and (first, second) == ("B+", "OUT+")):
                    nodes.join(part.pad(first), part.pad(second))
        for key, cell in self.cells.items():
            if cell.protection is None:
                nodes.join(f"{key}.bare-", f"{key}.-")
            if self.chain.build.fuse_a is None or key != self.hookup.parts.cells[0]:
                nodes.join(f"{key}.bare+", f"{key}.+")
        bare = [f"{key}.{pole}" for key in self.hookup.parts.cells for pole in ("bare-", "bare+")]
        inside = [f"{part.key}.inside" for part in self.hookup.parts.by_key.values() if self._feeds_inside(part)]
        for pad in (*bare, *sorted(self.hookup.parts.pads()), *inside, "case"):
            nodes.of(pad)
        return nodes

    def _feeds_inside(self, part: WiredPart) -> bool:
        """A regulator on the charger's own board stands behind its OUT, with no pads of its own between."""
        board = self.boards.get(part.key)
        return board is not None and board.charger is not None and board.regulator is not None

    def circuit(self, cases: Sequence[Case], barriers: Barriers) -> list[Branch]:
        """Every branch, with its figures in each case."""
        return list(_Branches(self, cases, barriers).all())

    def untouched(self, cases: Sequence[Case]) -> Barriers:
        """Everything is closed, but what is broken in a case."""
        broken = {guard.key: _has(cases, "does_not_wake", guard.key) for guard in self.guards}
        closed = {key: ~mask for key, mask in broken.items()}
        return Barriers(dict(closed), dict(closed), np.ones(len(cases), dtype=bool))

    def cannot(self, cases: Sequence[Case], kind: FaultKind, guard: Guard) -> Mask:
        return _has(cases, kind, guard.key)


def _has(cases: Sequence[Case], kind: FaultKind, *at: str) -> Mask:
    return np.array([fault is not None and fault.kind == kind and (not at or fault.at == at) for fault, _ in cases])


@dataclass(frozen=True)
class _Branches:
    """The circuit of one build in many cases, part by part."""

    soldered: Soldered
    cases: Sequence[Case]
    barriers: Barriers

    def all(self) -> Iterator[Branch]:
        yield from self._wires()
        yield from self._cells()
        yield from self._source()
        for part in self.soldered.hookup.parts.by_key.values():
            yield from self._part(part)
        yield from self._gadget()
        yield from self._bridges()

    # What the cases say ------------------------------------------------------------------------------------------

    @property
    def chain(self) -> Chain:
        return self.soldered.chain

    def _is(self, kind: FaultKind, *at: str) -> Mask:
        return _has(self.cases, kind, *at)

    @cached_property
    def _plugged(self) -> Mask:
        return np.array([situation.plugged_in for _, situation in self.cases])

    @cached_property
    def _used(self) -> Mask:
        return np.array([situation.used for _, situation in self.cases])

    def _probed(self, probe: str) -> Mask:
        return np.array([situation.probe == probe for _, situation in self.cases])

    def _branch(
        self,
        name: str,
        plus: str,
        minus: str,
        law: Law,
        alive: Mask | None = None,
        watched: tuple[str, str] | None = None,
    ) -> Branch:
        of = self.soldered.nodes.of
        seen = (of(watched[0]), of(watched[1])) if watched else (0, 0)
        return Branch(name, of(plus), of(minus), law, seen, 1.0 if alive is None else alive.astype(float))

    def _contact(self, name: str, plus: str, minus: str, alive: Mask | None = None, ohm: float = BRIDGE_OHM) -> Branch:
        return self._branch(name, plus, minus, laws.Resistance(1 / ohm), alive)

    # Part by part ------------------------------------------------------------------------------------------------

    def _wires(self) -> Iterator[Branch]:
        for wire in self.soldered.hookup.wires:
            is_open = self._is("joint_open", wire.start, wire.end)
            yield self._contact(wire_name(wire), wire.start, wire.end, ~is_open, self.soldered.wire_ohm(wire))

    def _cells(self) -> Iterator[Branch]:
        chosen = self.chain.required_running().chosen
        rest_v = np.array([situation.rest_v for _, situation in self.cases])
        for number, (key, cell) in enumerate(self.soldered.cells.items()):
            sign = np.where(self._is("cell_reversed", key), -1.0, 1.0)
            volts = rest_v
            if number == 1:
                volts = np.where(self._is("cells_unlike"), chosen.cell.facts.empty_v, rest_v)
            ohm = max(cell.resistance_ohm * chosen.wear[1], 1e-3)
            yield self._branch(f"{key}.cell", f"{key}.bare+", f"{key}.bare-", laws.Emf(sign * volts, ohm))
            if cell.protection is not None:
                yield self._transistors(self._guard(key), f"{key}.bare-", f"{key}.-", sign)
            if number == 0 and self.chain.build.fuse_a is not None:
                holds = self.barriers.fuse
                yield self._contact("fuse", f"{key}.bare+", f"{key}.+", holds, _fuse_ohm(self.chain.build.fuse_a))

    def _guard(self, key: str) -> Guard:
        return next(guard for guard in self.soldered.guards if guard.key == key)

    def _transistors(self, guard: Guard, inner: str, outer: str, sign: Floats | float = 1.0) -> Branch:
        law = laws.Transistors(
            guard.protection.r_on_ohm,
            self.barriers.takes[guard.key].astype(float),
            self.barriers.gives[guard.key].astype(float),
            np.ones(len(self.cases)) * sign,
        )
        return self._branch(guard.branch, inner, outer, law)

    def _source(self) -> Iterator[Branch]:
        source, old = self.chain.build.source, old_charger(self.chain.gadget)
        somebody = self._is("old_adapter")
        in_its_jack = self.chain.gadget.existing_charging.treatment == "moved"
        taken_out = somebody & in_its_jack
        ohm = max(source.r_cable_ohm, 0.01)
        port = laws.Emf(source.volts, ohm, PORT_TIMES * source.limit_a, one_way=True)
        yield self._branch(SOURCE, "source.5V", "source.GND", port, self._plugged & ~taken_out)
        if old is None or not somebody.any():
            return
        adapter = laws.Emf(old.open_v, old.r_ohm, old.most_a, one_way=True)
        plus, minus = ("source.5V", "source.GND") if in_its_jack else ("gadget.+", "gadget.-")
        yield self._branch(OLD_ADAPTER, plus, minus, adapter, somebody & self._plugged)

    def _part(self, part: WiredPart) -> Iterator[Branch]:
        board = self.soldered.boards.get(part.key)
        if board is not None:
            yield from self._board(part, board)
        elif part.kind == "regulator" and self.chain.build.regulator is not None:
            yield from self._loose_regulator(part, self.chain.build.regulator)
        elif part.kind == "diode":
            diode = laws.diode_of(SCHOTTKY)
            failed = self._is("part_shorted", part.key) | self._is("part_open", part.key)
            yield self._branch(part.key, part.pad("A"), part.pad("K"), diode, ~failed)
            yield self._contact(f"{part.key}.short", part.pad("A"), part.pad("K"), self._is("part_shorted", part.key))
        elif part.key == "change_over":
            yield self._contact("change_over.cell", part.pad("1"), part.pad("2"), ~self._plugged)
            yield self._contact("change_over.five", part.pad("3"), part.pad("2"), self._plugged)
        elif part.kind in ("switch", "fuse"):
            on = self._used if part.key == "main" else np.ones(len(self.cases), dtype=bool)
            yield self._contact(part.key, part.pad("1"), part.pad("2"), on)

    def _board(self, part: WiredPart, board: Board) -> Iterator[Branch]:
        if board.protection is not None and "B-" in part.pads:
            outer = "P-" if "P-" in part.pads else "OUT-"
            yield self._transistors(self._guard(part.key), part.pad("B-"), part.pad(outer))
        if board.charger is not None:
            yield from self._charger(part)
            inside = f"{part.key}.inside" if board.regulator is not None else part.pad("OUT+")
            if ("B+", "OUT+") in part.through:
                yield from self._sharing(part, inside)
            elif board.regulator is not None:
                yield self._contact(f"{part.key}.inside", part.pad("B+"), inside)
            if board.regulator is not None and "OUT+" in part.pads:
                ends = (inside, part.pad("OUT-"), part.pad("OUT+"), part.pad("OUT-"))
                yield from self._regulator(part.key, board.regulator, ends)
        elif board.regulator is not None and part.kind == "regulator":
            yield from self._loose_regulator(part, board.regulator)

    def _sharing(self, part: WiredPart, inside: str) -> Iterator[Branch]:
        """A transistor from the cell that is off while there are 5 V, its body diode, and a diode from the 5 V."""
        shorted = self._is("part_shorted", part.key)
        on = ~self._plugged | shorted
        yield self._contact(f"{part.key}.sharing", part.pad("B+"), inside, on, SHARING_OHM)
        body = laws.Diode(BODY.is_a, BODY.n, SHARING_OHM)
        yield self._branch(f"{part.key}.body", part.pad("B+"), inside, body)
        yield self._branch(f"{part.key}.from_five", part.pad("IN+"), inside, laws.diode_of(SCHOTTKY))

    def _charger(self, part: WiredPart) -> Iterator[Branch]:
        charger = self.soldered.boards[part.key].charger
        assert charger is not None
        charging = self.chain.board_charging
        is_first = part.key == self.soldered.hookup.parts.charger and charging is not None
        set_a = charging.current.spread.nominal_a if is_first and charging else charger.rated_a
        amps = np.where(self._is("resistor_open", part.key), 0.0, set_a)
        amps = np.where(self._is("resistor_shorted", part.key), CHIP_TIMES * charger.rated_a, amps)
        stuck = self._is("charger_stuck_on", part.key) | self._probed("stuck_charger")
        law = laws.LinearCharger(
            amps,
            charger.float_v,
            max(charger.pass_ohm, 0.01),
            charger.precharge_v,
            charger.precharge_share,
            charging.current.burn_limit_w if is_first and charging else np.inf,
            stuck.astype(float),
        )
        plus, minus = part.pad("IN+"), part.pad("IN-")
        # Unplugged its chip is asleep, and lets nothing back.
        yield self._branch(f"{part.key}.charger", plus, part.pad("B+"), law, None, (part.pad("B+"), minus))
        # Whatever is fed backwards finds the diode that lies across every chip.
        chip = laws.Diode(laws.BODY_IS_A, laws.BODY_N, 0.2)
        yield self._branch(f"{part.key}.chip", minus, part.pad("B+"), chip)

    def _loose_regulator(self, part: WiredPart, regulator: Regulator) -> Iterator[Branch]:
        pads = kind_of(regulator).pads
        plus_in, plus_out = part.pad(pads.plus_in), part.pad(pads.plus_out)
        ground = part.pad(pads.minus_in) if pads.minus_in else plus_out
        yield from self._regulator(part.key, regulator, (plus_in, ground, plus_out, ground))

    def _regulator(self, key: str, regulator: Regulator, ends: tuple[str, str, str, str]) -> Iterator[Branch]:
        """`ends`: plus and minus of its input, plus and minus of its output."""
        plus_in, ground, plus_out, _ = ends
        shorted, is_open = self._is("part_shorted", key), self._is("part_open", key)
        works = ~(shorted | is_open)
        yield self._contact(f"{key}.short", plus_in, plus_out, shorted)
        disabled = ~self._used & (self.chain.build.switch_place == "enable")
        branches = next(made for law, made in _BY_LAW.items() if isinstance(law_of_regulator(regulator), law))
        yield from branches(self, key, regulator, (plus_in, ground, plus_out), works, ~disabled)

    def _gadget(self) -> Iterator[Branch]:
        heaviest, off = self.chain.heaviest, self.chain.off_load
        starved_v = max(laws.STARVED_SHARE * self.chain.stops_at_v, 0.3)
        backwards = _BACKWARDS.get(self.chain.gadget.front_end, "diodes")
        if heaviest is not None:
            law = laws.GadgetDraws(self.chain.load_of(heaviest), starved_v, backwards)
            yield self._branch(GADGET, "gadget.+", "gadget.-", law, self._used)
        yield self._branch("gadget off", "gadget.+", "gadget.-", laws.GadgetDraws(off, starved_v, "none"), ~self._used)
        yield self._contact(SHORT, "gadget.+", "gadget.-", self._probed("shorted"))

    def _bridges(self) -> Iterator[Branch]:
        """What metal joins: two pads, a case, a wire against it."""
        build, shell = self.chain.build, self.chain.gadget.shell
        if shell.metal and build.wiring.case_touches is not None:
            yield self._contact("case", build.wiring.case_touches, "case")
        faults = dict.fromkeys(fault for fault, _ in self.cases if fault is not None)
        for fault in faults:
            if fault.kind == "pads_joined":
                yield self._contact(fault.key, fault.at[0], fault.at[1], self._is(fault.kind, *fault.at))
            elif fault.kind == "wire_on_case":
                yield self._contact(fault.key, fault.at[0], "case", self._is(fault.kind, *fault.at))


_BACKWARDS = {"lamp": "same", "motor": "same", "heater": "same", "led_resistor": "none"}


def _fuse_ohm(holds_a: float) -> float:
    """Of a polyfuse: some 0.1 V at what it holds (data sheets, from memory)."""
    return 0.1 / max(holds_a, 0.1)


# Regulators, kind by kind ------------------------------------------------------------------------------------------

_Ends = tuple[str, str, str]


def _series_diode(at: _Branches, key: str, one: Regulator, ends: _Ends, works: Mask, _on: Mask) -> Iterator[Branch]:
    yield at._branch(f"{key}.through", ends[0], ends[2], laws.diode_of(one), works)


def _resistor(at: _Branches, key: str, one: Regulator, ends: _Ends, works: Mask, _on: Mask) -> Iterator[Branch]:
    yield at._contact(f"{key}.through", ends[0], ends[2], works, max(one.series_ohm or 0.0, 1e-3))


def _ldo(at: _Branches, key: str, one: Regulator, ends: _Ends, works: Mask, on: Mask) -> Iterator[Branch]:
    plus_in, ground, plus_out = ends
    through = laws.SeriesRegulator(
        one.v_set or 0.0, one.drop_v, max(one.drop_ohm, 0.01), most_given_a(one), on.astype(float)
    )
    yield at._branch(f"{key}.through", plus_in, plus_out, through, works, (plus_out, ground))
    yield at._branch(f"{key}.body", plus_out, plus_in, laws.Diode(BODY.is_a, BODY.n, 0.1), works)
    idle_a = np.where(on, one.iq_a, one.iq_off_a)
    yield at._branch(f"{key}.idle", plus_in, ground, laws.Idle(idle_a), works)


def _converter(at: _Branches, key: str, one: Regulator, ends: _Ends, works: Mask, on: Mask) -> Iterator[Branch]:
    plus_in, ground, plus_out = ends
    law = law_of_regulator(one)
    steps_down = isinstance(law, regulator_laws.StepDown)
    gives = laws.ConverterOutput(
        one.v_set or 0.0, most_given_a(one), one.v_in_min, max(one.drop_ohm, 0.01), steps_down, on.astype(float)
    )
    draws = laws.ConverterInput(one, gives, np.where(on, one.iq_a, one.iq_off_a))
    yield at._branch(f"{key}.through", plus_out, ground, gives, works, (plus_in, ground))
    yield at._branch(f"{key}.input", plus_in, ground, draws, works, (plus_out, ground))
    if isinstance(law, regulator_laws.StepUp):
        yield at._branch(f"{key}.pass", plus_in, plus_out, laws.PassedThrough(one.input_ohm), works)
    if steps_down:
        yield at._branch(f"{key}.body", plus_out, plus_in, laws.Diode(BODY.is_a, BODY.n, 0.1), works)


def _straight(at: _Branches, key: str, _one: Regulator, ends: _Ends, works: Mask, _on: Mask) -> Iterator[Branch]:
    yield at._contact(f"{key}.through", ends[0], ends[2], works)


# By the law of its kind, so that a new kind needs no entry here.
_BY_LAW: Mapping[type, Callable[..., Iterator[Branch]]] = {
    regulator_laws.Straight: _straight,
    regulator_laws.SeriesDiode: _series_diode,
    regulator_laws.DroppingResistor: _resistor,
    regulator_laws.LinearRegulator: _ldo,
    regulator_laws.Converter: _converter,
}
