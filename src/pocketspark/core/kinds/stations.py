"""The stations: the steps of the job in the order makers do it, each with the question that it answers."""

from collections.abc import Sequence
from dataclasses import dataclass


@dataclass(frozen=True)
class Station:
    """One station. `answers`: the question that a maker comes with."""

    label: str
    answers: str


STATIONS: dict[str, Station] = {
    "survey": Station("Survey", "What does it take, and what does it draw?"),
    "cell": Station("Cell", "Which cell?"),
    "power": Station("Power", "What will the gadget see, and for how long?"),
    "charge": Station("Charge", "Which resistor, and how long does it charge?"),
    "fit": Station("Fit", "Will it all go in?"),
    "wire": Station("Wire", "What goes to what?"),
    "build": Station("Build", "What next, and is it right so far?"),
    "prove": Station("Prove", "Did it come out as predicted?"),
}

# At which station the field of a place stands: the first of these that the place holds.
PLACES: Sequence[tuple[str, str]] = (
    ("gadget.bay", "fit"),
    ("gadget.", "survey"),
    (".record.", "build"),
    (".pins", "fit"),
    (".protection", "power"),
    (".regulator", "power"),
    (".wiring", "wire"),
    (".switch_", "wire"),
    (".fuse_a", "wire"),
    (".contacts_a", "wire"),
    (".boards", "charge"),
    (".source", "charge"),
    (".input", "charge"),
    (".r_prog_ohm", "charge"),
    (".external_charger", "charge"),
    ("builds.", "cell"),
)


def station_of(path: str) -> str:
    """Where a field stands on screen; at Survey what belongs to no build."""
    return next((station for part, station in PLACES if part in path), "survey")
