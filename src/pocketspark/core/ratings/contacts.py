"""What plugs, switches, spring contacts and fuses on the way are rated for."""

from collections.abc import Iterator, Mapping

from pocketspark.core.circuit import Circuit
from pocketspark.core.finding import Remedy
from pocketspark.core.kinds.wires import carries_a, gauge
from pocketspark.core.message import _, say
from pocketspark.core.models.build import CHANGE_OVER_SWITCH, MAIN_SWITCH, CellLead
from pocketspark.core.models.project import Edit
from pocketspark.core.ratings.rating import Bound, Rating

# Contacts of plugs on cells' leads, A, from memory of such connectors' drawings.
PLUG_A: Mapping[CellLead, float] = {"small_plug": 1.0, "common_plug": 2.0}
# A small slide switch, and the springs of a battery bay (common practice, no source).
USUAL_SWITCH_A, USUAL_CONTACTS_A = 0.3, 1.0
TWICE = 2.0


def _plug(circuit: Circuit) -> Iterator[Bound]:
    rated_a = PLUG_A.get(circuit.running.build.cell_lead)
    if rated_a is not None and circuit.running.runs:
        edits = (Edit(path=f"{circuit.chain.path}.cell_lead", value="soldered"),)
        yield Bound(rated_a, remedy=Remedy(label=say("Solder the cell's leads"), edits=edits))


def _switch(circuit: Circuit) -> Iterator[Bound]:
    """Of switches that this build adds, or of the gadget's own where somebody has said what it is rated for."""
    build, path = circuit.running.build, f"{circuit.chain.path}.switch_a"
    usual = build.switch_a is None
    limit = USUAL_SWITCH_A if build.switch_a is None else build.switch_a
    before = "regulator0_in_a" if circuit.running.chosen.regulators_in_the_way else "gadget_a"
    if build.switch_place == "before_regulator" and circuit.chain.regulators:
        yield Bound(limit, MAIN_SWITCH, usual, before, (path,))
    elif build.switch_place == "gadget" and build.switch_a is not None:
        yield Bound(limit, _("switch in the gadget"), usual, "gadget_a", (path,))
    if build.use_while_charging == "change_over":
        yield Bound(limit, CHANGE_OVER_SWITCH, usual, before, (path,))


def _contacts(circuit: Circuit) -> Iterator[Bound]:
    build = circuit.running.build
    if build.facts_of_style.keeps_terminals:
        rated_a = USUAL_CONTACTS_A if build.contacts_a is None else build.contacts_a
        yield Bound(rated_a, usual=build.contacts_a is None, rests_on=(f"{circuit.chain.path}.contacts_a",))


def _fuse(circuit: Circuit) -> Iterator[Bound]:
    if (holds_a := circuit.running.build.fuse_a) is not None:
        yield Bound(holds_a, rests_on=(f"{circuit.chain.path}.fuse_a",))


def _wires(circuit: Circuit) -> Iterator[Bound]:
    awg = circuit.chain.gadget.wires_awg
    if awg is not None:
        yield Bound(carries_a(awg), gauge(round(awg)), rests_on=("gadget.wires_awg",))


RATINGS = (
    Rating(
        code="wire.plug_rating",
        station="wire",
        node="cell",
        source="drawings of such connectors, from memory",
        watches="A plug on the cell's lead has contacts of an ampere or two; all that goes in or out of the cell flows "
        "there.",
        advice=say("Solder the lead instead, or choose a larger plug."),
        limits=say("the plug's current; twice that is a stop"),
        quantity="cell_a",
        uses=("asleep", "mode", "peak", "stalled"),
        bounds=_plug,
        stop_from=TWICE,
        over=_("The cell's plug is rated for {limit}, but {value} can flow. Its contacts get hot."),
        within=_("The cell's plug is rated for {limit}; {value} flows at most."),
    ),
    Rating(
        code="wire.switch_rating",
        station="wire",
        node="gadget",
        source="the switch's own rating; small slide switches, common practice, no source",
        watches="What flows through a switch on the way, at its peak too.",
        advice=say("Choose a switch rated for more, or let it switch the regulator's enable pin."),
        limits=say("the switch's current; twice that is a stop"),
        quantity="",
        uses=("asleep", "mode", "peak", "stalled"),
        bounds=_switch,
        stop_from=TWICE,
        over=_("The {part} is rated for {limit}, and {value} flows through it. Its contacts wear and weld."),
        within=_("The {part} is rated for {limit}; {value} flows through it at most."),
    ),
    Rating(
        code="wire.contacts_rating",
        station="wire",
        node="gadget",
        source="spring contacts of battery bays, common practice, no source",
        watches="What flows through the spring contacts that the gadget is fed by.",
        advice=say("Solder a wire beside the springs, or clean and bend them so that they press."),
        limits=say("the contacts' current; twice that is a stop"),
        quantity="gadget_a",
        uses=("asleep", "mode", "peak", "stalled"),
        bounds=_contacts,
        stop_from=TWICE,
        over=_("The spring contacts are rated for {limit}, and {value} flows through them. They get hot."),
        within=_("The spring contacts are rated for {limit}; {value} flows through them at most."),
    ),
    Rating(
        code="wire.fuse_opens",
        station="wire",
        node="cell",
        source="a fuse's hold current, common practice, no source",
        watches="All that flows in or out of the cell for more than a moment against what the fuse holds.",
        advice=say("Fit a fuse that holds more than the gadget draws, and less than cell and wires can take."),
        quantity="cell_a",
        uses=("asleep", "mode", "peak"),
        # A fuse needs a second or so at twice its current.
        shortest_s=1.0,
        bounds=_fuse,
        over=_("The fuse holds {limit}, and {value} flows through it: it opens in use."),
        within=_("The fuse holds {limit}; {value} flows at most."),
    ),
    Rating(
        code="wire.existing_wires",
        station="wire",
        node="gadget",
        source="tables for wiring within a chassis, from memory",
        watches="The gadget's own wires were made for its old current; with other volts more may flow in them.",
        advice=say("Solder a thicker wire beside the one that is there."),
        limits=say("what a wire of this gauge can carry; twice that is a stop"),
        quantity="gadget_a",
        uses=("asleep", "mode", "peak", "stalled"),
        # A wire takes a second or so to get hot.
        shortest_s=1.0,
        bounds=_wires,
        stop_from=TWICE,
        over=_("The gadget's own wires, {part}, can carry {limit}, and {value} flows in them. They get hot."),
        within=_("The gadget's own wires, {part}, can carry {limit}; {value} flows in them at most."),
    ),
)
