"""What is said of one build: the summaries an assessment is made of, as the screen and the file read them."""

from pydantic import Field

from pocketspark.core.cells.grading import Grade
from pocketspark.core.finding import Finding, Level, Station
from pocketspark.core.models import Basis
from pocketspark.core.models.model import Model
from pocketspark.core.questions.payback import Payback
from pocketspark.core.questions.power_path import PowerPath


class WindowSummary(Model):
    """The window in force, with the basis of each end."""

    v_run_min: float
    v_abs_max: float
    min_basis: Basis
    max_basis: Basis


class RulerBand(Model):
    """One bar of the voltage ruler, V."""

    label: str
    low_v: float
    high_v: float
    kind: str  # old, lithium, gadget
    detail: str


class SurveySummary(Model):
    """What the survey adds up to."""

    window: WindowSummary
    supply: str  # the old batteries in words
    design_v: float
    led_v: float
    ruler: tuple[RulerBand, ...]
    daily_ah: float
    average_a: float


class LimitLine(Model):
    """One ceiling on the charge current."""

    name: str
    label: str
    current_a: float


class ResistorChoice(Model):
    """One value that could be fitted, and the current it gives with board and resistor tolerance."""

    r_ohm: float
    current_a: float
    least_a: float
    most_a: float
    within: bool  # its highest possible current stays under every limit


class ResistorLook(Model):
    """How to recognise a resistor on the bench."""

    r_ohm: float
    text: str
    rkm: str
    chip_code: str
    chip_code_4: str
    eia96: str | None
    bands: tuple[str, ...]


class ChargeCurve(Model):
    """The charge run, column by column. `junction_c` is empty where the chip's heat path is not known."""

    hours: tuple[float, ...]
    cell_v: tuple[float, ...]
    charger_a: tuple[float, ...]
    charge_ah: tuple[float, ...]
    inside_c: tuple[float, ...]
    junction_c: tuple[float, ...]
    cell_c: tuple[float, ...]


class ChargeSummary(Model):
    """The charge as set. `hours` is None where it never ends. `cc_share` is a share of the time."""

    r_prog_ohm: float
    r_origin: str
    current_a: float
    current_least_a: float
    current_most_a: float
    hours: float | None
    hours_least: float | None
    hours_most: float | None
    hours_to_80: float | None
    cc_share: float
    cc_charge_share: float
    terminates: bool
    end_current_a: float
    heat_w: float
    inside_c_most: float
    junction_c_most: float | None
    cell_c_most: float
    at_board_v: float
    plugged_v: float | None
    fitted: ResistorLook
    suggested: ResistorLook
    choices: tuple[ResistorChoice, ...]
    limits: tuple[LimitLine, ...]
    curve: ChargeCurve


class RunCurve(Model):
    """A run, column by column: charge left (1 down to 0), and volts at cell and gadget."""

    hours: tuple[float, ...]
    soc: tuple[float, ...]
    cell_v: tuple[float, ...]
    gadget_v: tuple[float, ...]


class ModeSummary(Model):
    """One mode run from full to its end. `original_hours` is what the old batteries gave."""

    name: str
    hours_per_day: float
    hours: float
    stopped_by: str
    charge_ah: float
    unused: float
    original_hours: float
    gadget_v_end: float
    curve: RunCurve


class GaugeSummary(Model):
    """What the gadget's own gauge makes of the cell: its thresholds, and the share of charge left at each."""

    warn_v: float
    stop_v: float
    left_at_warning: float
    left_at_stop: float


class ProtectionSummary(Model):
    """The protection that lets the least current by, and who ends the run."""

    name: str
    cut_v: float
    trip_least_a: float
    trip_most_a: float
    peak_a: float
    drain_a: float
    ends_the_run: str


class RunSummary(Model):
    """Run time by mode, at the surveyed daily use, and switched off. `drains` is by who takes it, A."""

    modes: tuple[ModeSummary, ...]
    days: float | None
    standby_days: float
    standby_a: float
    drains: dict[str, float]
    gauge: GaugeSummary | None
    protection: ProtectionSummary | None


class GadgetVolts(Model):
    """The most and least the gadget sees."""

    max: float
    min: float


class CellSummary(Model):
    """The chosen cell or group."""

    capacity_ah: float
    r_ohm: float
    density_wh_per_l: float | None
    credible_capacity_ah: float | None
    c_rate: float | None
    grade: Grade
    outer_margin_mm: float | None


class Assessment(Model):
    """All that can be said of one build. A part still to be chosen leaves its summary None."""

    findings: tuple[Finding, ...]
    worst: Level
    stations: dict[Station, Level]
    path: PowerPath
    survey: SurveySummary
    cell: CellSummary | None = None
    charge: ChargeSummary | None = None
    run: RunSummary | None = None
    gadget_v: GadgetVolts | None = None
    payback: Payback | None = None
    cautions: tuple[str, ...] = Field(default=())
