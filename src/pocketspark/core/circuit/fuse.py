"""The fuse that suits a build: it holds what flows as it should, and opens at a short."""

from pocketspark.core.chain import Running
from pocketspark.core.circuit.solving import circuit_of

# Hold currents in which polyfuses are sold, A (usual series, from memory); what flows at most stays under this share.
POLYFUSES_A, FUSE_ROOM = (0.35, 0.5, 0.75, 1.1, 1.5, 2.0, 2.5, 3.0), 0.8


def fuse_for(running: Running) -> float | None:
    """The smallest that holds it; None where none does."""
    charging = running.charging
    charge_a = charging.current.spread.most_a if charging else 0.0
    flows_a = max(circuit_of(running).most("cell_out_a"), charge_a)
    return next((one for one in POLYFUSES_A if flows_a <= FUSE_ROOM * one), None)
