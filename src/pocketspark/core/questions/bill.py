"""The bill of materials: every part of a build, with what the wiring and the fit ask for beside it."""

from pocketspark.core.chain import Chain
from pocketspark.core.fit.build_in_bay import fitted_build
from pocketspark.core.fit.standing import TAPE_MM
from pocketspark.core.fit.styles import places_to_bridge
from pocketspark.core.hookup.hookup import hook_up
from pocketspark.core.kinds.wires import gauge
from pocketspark.core.message import Value, all_of, say
from pocketspark.core.models import Project
from pocketspark.core.models.build import CELL_LEADS
from pocketspark.core.models.climate import CLIMATES
from pocketspark.core.models.small_part import SMALL_PARTS
from pocketspark.core.units.figures import Figure, amps, exact_percent, fixed, millimetres, ohms, volts
from pocketspark.core.wiring.cutlist import cut_list

# Quantity, part, remark.
BillRow = tuple[int, Value, Value]


def bill_of_materials(project: Project, build: int) -> list[BillRow]:
    """Quantity, part, remark."""
    chosen, chain = project.builds[build], Chain(project, build)
    rows: list[BillRow] = []
    if chosen.cell:
        rows.append((chosen.cell_count, chosen.cell.name, chosen.cell.facts.label))
    rows += [(1, cell.name, cell.facts.label) for cell in chosen.unlike_cells]
    rows += [(1, board.name, "") for board in chosen.boards]
    if chosen.regulator and chosen.regulator.kind != "none":
        rows.append((1, chosen.regulator.name, ""))
    if chain.board_charging:
        marked = ohms(chain.board_charging.current.r_marked_ohm)
        rows.append(
            (
                1,
                say("resistor {marked}", marked=marked),
                say("{tolerance}, sets the charge current", tolerance=exact_percent(chosen.r_tolerance)),
            )
        )
    wires = cut_list(chain) if chain.board_charging else []
    if wires:
        total = sum(wire.length_mm for wire in wires)
        rows.append(
            (
                len(wires),
                "wires",
                say(
                    "{total} m in all, {gauge} or thicker",
                    total=fixed(total / 1000, 2),
                    gauge=gauge(max(w.awg for w in wires)),
                ),
            )
        )
    return [*rows, *outside_charger(chain), *sundries(chain)]


def outside_charger(chain: Chain) -> list[BillRow]:
    """One that the cell is taken out to, where anybody has said what it gives."""
    outside, charging = chain.build.external_charger, chain.charging
    if chain.build.who_charges != "external" or charging is None or not outside.current_a:
        return []
    gives, ends = amps(outside.current_a), volts(charging.charger.float_v)
    return [(1, say("external charger, {gives}", gives=gives), say("ends at {ends}", ends=ends))]


# Bought once, however many gadgets are built.
ENOUGH_FOR_SEVERAL = ("heat shrink", "lacquer for boards")


def sundries(chain: Chain) -> list[BillRow]:
    """What only the wiring or the fit asks for. A switch that both know of is one switch."""
    build = chain.build
    named: dict[Value, Value] = {part.name: SMALL_PARTS[part.kind].says for part in build.small_parts_in_all}
    if chain.running:
        parts = hook_up(chain).parts
        added = (parts.by_key[key] for key in (*parts.extra, *(extra.key for extra in build.wiring.extra)))
        named |= {part.name: named.get(part.name, "") for part in added if part.kind != "link"}
    if build.who_charges != "external":
        named |= dict(build.input.facts.buys)
    if build.fuse_a is not None:
        named[say("polyfuse that holds {holds}", holds=amps(build.fuse_a))] = say(
            "in the cell's plus lead, in a sleeve"
        )
    if build.wiring.sleeved:
        named["heat shrink"] = say("a sleeve over every bare joint")
    if build.input.damped:
        named["electrolytic capacitor, 47 uF"] = say("across the 5 V, at the board")
    if build.input.sealed:
        named["cap with a seal"] = say("for the hole of the socket")
    climate = chain.gadget.shell.climate
    if climate is not None and CLIMATES[climate].wet:
        named["lacquer for boards"] = say("not on sockets and contacts")
    if build.cell_lead != "soldered":
        label, remark = CELL_LEADS[build.cell_lead]
        named[say("{label}, with its socket", label=label)] = remark
    return [*((1, name, remark) for name, remark in named.items()), *_dummies(chain), *_foam(chain)]


def _dummies(chain: Chain) -> list[BillRow]:
    """For the places of old batteries that stay empty."""
    empty = places_to_bridge(chain.gadget, chain.build)
    name = say("dummy {common}, its ends joined by a wire", common=chain.gadget.supply.size.common)
    return [(empty, name, say("for a place that stays empty"))] if empty else []


def _foam(chain: Chain) -> list[BillRow]:
    """What keeps the parts from hanging in the air, by thickness."""
    fitted = fitted_build(chain)
    under: dict[Figure, list[str]] = {}
    for stands in fitted.answer.stands if fitted and fitted.goes_in else ():
        if stands.foam_mm > TAPE_MM:
            under.setdefault(millimetres(stands.foam_mm), []).append(stands.part)
    return [
        (len(parts), say("foam, {thick}", thick=thick), say("under {parts}", parts=all_of(parts)))
        for thick, parts in under.items()
    ]
