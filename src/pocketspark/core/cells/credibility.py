"""What a cell's volume can hold, held against what its label claims."""

from pocketspark.core.models import Cell

# Wh per litre of the bare body, from memory: (usual best, not credible above, plan with) by form.
DENSITY = {"pouch": (600.0, 650.0, 450.0), "block": (600.0, 650.0, 450.0), "round": (740.0, 780.0, 700.0)}


def energy_density_wh_per_l(cell: Cell) -> float | None:
    """Label energy over the volume of the bare body, or None where the size is not known."""
    volume_l = cell.volume_l
    return None if volume_l is None else cell.capacity_ah * cell.facts.nominal_v / volume_l


def credible_capacity_ah(cell: Cell) -> float | None:
    """What a good cell of this volume holds, for planning with where the label claims too much."""
    volume_l = cell.volume_l
    return None if volume_l is None else volume_l * DENSITY[cell.form][2] / cell.facts.nominal_v
