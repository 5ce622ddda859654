"""The watts that a regulator turns to heat in its worst state, and how hot that makes it."""

from dataclasses import dataclass

from pocketspark.core.chain import Running
from pocketspark.core.circuit.corners import Worst
from pocketspark.core.circuit.solving import circuit_of
from pocketspark.core.models import Regulator
from pocketspark.core.physics.heat import surroundings_of

# Junction to air on little copper, C/W, where the part's own figure is not known (from memory): a small linear
# regulator is a SOT-89, a diode an SMA, a converter a module of some square centimetres.
USUAL_THETA = {"ldo": 150.0, "diode": 90.0, "buck": 60.0, "boost": 60.0, "buck_boost": 60.0}


@dataclass(frozen=True)
class RegulatorHeat:
    """One regulator in the mode, and the state, that warms it most: watts, and degrees C of what carries them."""

    regulator: Regulator
    worst: Worst
    hottest_c: float


def regulator_heats(running: Running) -> list[RegulatorHeat]:
    """Of each regulator in the row; peaks are too short to warm it. Empty where there is none, or nothing runs."""
    circuit = circuit_of(running)
    around = surroundings_of(running.gadget.shell)
    heats = []
    for number, regulator in enumerate(running.chosen.regulators_in_the_way):
        worst = circuit.worst(f"regulator{number}_w", uses=("mode",))
        if worst is None:
            continue
        mode = worst.corner.use.mode
        duty = mode.duty if mode else 1.0
        theta = regulator.theta_ja_c_per_w or USUAL_THETA.get(regulator.kind, 0.0)
        air_c = around.room_c if worst.corner.feed != "unplugged" else running.gadget.shell.used_at_c
        heats.append(RegulatorHeat(regulator, worst, air_c + worst.value * duty * (theta + around.rise_c_per_w)))
    return heats
