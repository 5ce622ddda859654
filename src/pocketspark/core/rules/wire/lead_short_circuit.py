"""Wire: what a short right at the cell's leads comes to, where nothing on the cell itself opens."""

from collections.abc import Iterator

from pocketspark.core.chain import Running
from pocketspark.core.circuit.fuse import fuse_for
from pocketspark.core.finding import Judgement
from pocketspark.core.message import say
from pocketspark.core.rules.rule import fine, note, remedy, rule
from pocketspark.core.units.figures import amps


@rule(
    "wire.bare_leads",
    station="wire",
    node="cell",
    source="V / R of a full cell; single faults, handbook, section 17",
    advice=say("Take a cell with its own protection or put a fuse into its lead, and sleeve both leads."),
)
def bare_leads(running: Running) -> Iterator[Judgement]:
    """Where both leads of a cell touch before they reach a board, only what sits on the cell itself opens."""
    chain = running.chain
    if running.cell.protection is not None or chain.build.fuse_a is not None:
        yield fine(say("Something at the cell itself opens when its leads touch."))
        return
    if chain.build.wiring.sleeved:
        yield fine(say("The cell's leads are sleeved to the board: they cannot touch."))
        return
    flows = amps(running.chosen.full_v / max(running.chosen.r_ohm, 1e-3))
    holds_a = fuse_for(running)
    help_ = None
    if holds_a is not None:
        label = say("Put a polyfuse of {holds} into its lead", holds=amps(holds_a))
        help_ = remedy(label, {f"{chain.path}.fuse_a": holds_a})
    yield note(
        say("Where the cell's leads touch before the board, {flows} flow and nothing opens.", flows=flows),
        figure=flows,
        working=say("A board's protection sits behind them. What if, at Wire, goes through every other fault."),
        remedy=help_,
    )
