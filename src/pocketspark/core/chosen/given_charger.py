"""A charger that is there already, the gadget's own or one outside, as a board that can be computed with.

Of such a charger its current and its end voltage are known at best; the rest is usual of lithium chargers.
"""

from pocketspark.core.models import Board, Build, Charger, Gadget

# What was read off a charger or measured at it is right to so much (common practice, no source).
GIVEN_TOLERANCE = 0.10
# The least that a charger's end voltage may be in the model of a charger.
LEAST_FLOAT_V = 2.5
CALLED = {"gadget": "gadget's own charger", "external": "external charger"}


def given_charger(gadget: Gadget, build: Build) -> Board | None:
    """The charger that this build counts on, or None where nobody has said what it gives."""
    if build.who_charges == "external":
        outside = build.external_charger
        full_v = build.cell.facts.full_v if build.cell else 4.2
        return _board("external", outside.current_a, outside.float_v or full_v)
    if not gadget.has_lithium_charger:
        return None
    own = gadget.supply.own_charger
    current_a = own.current_a if own else gadget.existing_charging.current_a
    return _board("gadget", current_a, own_charger_ends_v(gadget))


def own_charger_ends_v(gadget: Gadget) -> float:
    """Where the gadget's own lithium charger ends: as measured, else where the pack that it was made for is full."""
    own = gadget.supply.own_charger
    if own and own.float_v:
        return own.float_v
    return gadget.supply.fresh_v if gadget.supply.kind == "lithium" else 4.2


def _board(who: str, current_a: float | None, float_v: float) -> Board | None:
    if not current_a:
        return None
    # I = K / R with a kilohm, so that it gives this current.
    charger = Charger(
        k_volts=max(current_a * 1000, 1.0),
        k_tolerance=GIVEN_TOLERANCE,
        rated_a=current_a,
        float_v=max(float_v, LEAST_FLOAT_V),
        precharge_v=min(2.9, float_v - 0.3) if float_v > LEAST_FLOAT_V else 2.2,
        back_leak_a=0.0,
        r_prog_ohm=max(1000.0, 1.0 / current_a),
    )
    return Board(name=CALLED[who], charger=charger)
