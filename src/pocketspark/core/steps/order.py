"""Every step that a build may have, in the order that is safe, and when each belongs to a build.

The order is common practice, no source. The cell comes last.
"""

from collections.abc import Iterator, Sequence

from pocketspark.core.chain import Chain, MissingPart
from pocketspark.core.rules.fit import fit_in_bay
from pocketspark.core.steps import before, building, proving
from pocketspark.core.steps.making import Maker
from pocketspark.core.steps.model import Step


def steps_of(chain: Chain) -> Iterator[Step]:
    """The steps of this build. One about a part that is still to be chosen is left out."""
    for maker in ORDER:
        try:
            if maker.when(chain):
                yield maker.make(chain)
        except MissingPart:
            continue


def _always(_chain: Chain) -> bool:
    return True


def _has_modes(chain: Chain) -> bool:
    return any(mode.current_a > 0 for mode in chain.gadget.modes)


def _has_old_path(chain: Chain) -> bool:
    return (
        chain.gadget.existing_charging.kind not in ("none", "lithium_charger")
        and chain.gadget.existing_charging.treatment != "never_plugged_in"
    )


def _has_charger(chain: Chain) -> bool:
    return bool(chain.chargers)


def _has_another_way_in(chain: Chain) -> bool:
    return bool(chain.chargers) and chain.build.input.kind != "board_socket"


def _has_a_bridge(chain: Chain) -> bool:
    return any(extra.kind in building.BRIDGES for extra in chain.build.wiring.extra)


def _opens_a_wall(chain: Chain) -> bool:
    answer = fit_in_bay(chain)
    return answer is not None and bool(answer.openings)


def _goes_into_the_gadget(chain: Chain) -> bool:
    return chain.build.style not in ("outside_pack", "stand_alone", "dummy_cell")


ORDER: Sequence[Maker] = (
    Maker(_always, before.photograph),
    Maker(_always, before.prove_old),
    Maker(_has_modes, before.measure_current),
    Maker(_always, before.polarity),
    Maker(_goes_into_the_gadget, before.terminals),
    Maker(_has_old_path, before.cut_path),
    Maker(_has_charger, before.resistor),
    Maker(_has_charger, before.board_alone),
    Maker(lambda chain: bool(chain.regulator.v_set), before.set_regulator),
    Maker(_has_another_way_in, before.five_volts_in),
    Maker(lambda chain: chain.build.cell_count > 1, before.cells_apart),
    Maker(_goes_into_the_gadget, building.dry_fit),
    Maker(_opens_a_wall, building.open_wall),
    Maker(_always, building.mount),
    Maker(_always, building.wires),
    Maker(_has_a_bridge, building.bridged),
    Maker(_always, building.short_check),
    Maker(_always, building.cell_volts),
    Maker(_always, building.cell_last),
    Maker(_has_modes, proving.output_volts),
    Maker(_has_charger, proving.first_charge),
    Maker(_has_charger, proving.warmth),
    Maker(_has_charger, proving.full),
    Maker(_always, proving.rest),
    Maker(_always, proving.close),
    Maker(lambda chain: chain.most_used is not None, proving.discharge),
)
