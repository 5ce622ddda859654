"""What is said of one build: the summaries an assessment is made of, as the screen and the file read them."""

from pocketspark.core.cells.grading import Grade
from pocketspark.core.finding import Finding, Level, StationKey
from pocketspark.core.message import Label, Message
from pocketspark.core.models import Basis
from pocketspark.core.models.build import WhoCharges
from pocketspark.core.models.model import Model
from pocketspark.core.questions.load_as_lived import LoadDay
from pocketspark.core.questions.payback import Payback
from pocketspark.core.questions.power_path import PowerPath
from pocketspark.core.questions.worth_it import WorthIt
from pocketspark.core.units.figures import (
    ShownAmpHours,
    ShownAmps,
    ShownCelsius,
    ShownDays,
    ShownDecibels,
    ShownHertz,
    ShownHours,
    ShownMillimetres,
    ShownOhms,
    ShownShare,
    ShownVolts,
    ShownWatts,
)


class WindowSummary(Model):
    """The window in force, with the basis of each end."""

    v_run_min: ShownVolts
    v_start_min: ShownVolts
    v_abs_max: ShownVolts
    min_basis: Basis
    max_basis: Basis


class RulerBand(Model):
    """One bar of the voltage ruler, V."""

    label: Message
    low_v: float
    high_v: float
    kind: str  # old, lithium, gadget
    detail: Message


class SurveySummary(Model):
    """What the survey adds up to."""

    window: WindowSummary
    supply: Message  # the old batteries in words
    design_v: ShownVolts
    led_v: ShownVolts
    ruler: tuple[RulerBand, ...]
    daily_ah: ShownAmpHours
    average_a: ShownAmps
    day: LoadDay | None = None  # None where nothing is known to draw


class LimitLine(Model):
    """One ceiling on the charge current, in words as it is drawn."""

    name: str
    label: Message
    current_a: float
    words: Message


class ResistorChoice(Model):
    """One value that could be fitted, and the current it gives with board and resistor tolerance."""

    r_ohm: float
    current_a: float
    least_a: float
    most_a: float
    within: bool  # its highest possible current stays under every limit


class ResistorLook(Model):
    """How to recognise a resistor on the bench."""

    r_ohm: ShownOhms
    text: Message
    rkm: str
    chip_code: str
    chip_code_4: str
    eia96: str | None
    bands: tuple[str, ...]
    paints: tuple[str, ...]  # the colours of the bands, as a drawing has them


class ChargeCurve(Model):
    """The charge run, column by column. `junction_c` is empty where the chip's heat path is not known."""

    hours: tuple[float, ...]
    cell_v: tuple[float, ...]
    charger_a: tuple[float, ...]
    charge_ah: tuple[float, ...]
    inside_c: tuple[float, ...]
    junction_c: tuple[float, ...]
    cell_c: tuple[float, ...]


class ChargingSummary(Model):
    """How long and how hot, whoever charges: a board of ours, the gadget's own charger, one outside.

    `hours` is None where it never ends.
    """

    who: WhoCharges
    says: str  # what it is called
    current_a: ShownAmps
    ends_v: ShownVolts
    hours: ShownHours | None
    hours_least: ShownHours | None
    hours_most: ShownHours | None
    hours_to_80: ShownHours | None
    inside_c_most: ShownCelsius
    cell_c_most: ShownCelsius
    curve: ChargeCurve


class ChargeSummary(Model):
    """The charge as set on a board of ours. `hours` is None where it never ends. `cc_share` is a share of the time."""

    r_prog_ohm: ShownOhms
    r_origin: str
    current_a: ShownAmps
    current_least_a: ShownAmps
    current_most_a: ShownAmps
    hours: ShownHours | None
    hours_least: ShownHours | None
    hours_most: ShownHours | None
    hours_to_80: ShownHours | None
    cc_share: ShownShare
    cc_charge_share: ShownShare
    terminates: bool
    termination_a: ShownAmps
    heat_w: ShownWatts
    inside_c_most: ShownCelsius
    junction_c_most: ShownCelsius | None
    cell_c_most: ShownCelsius
    at_board_v: ShownVolts
    plugged_v: ShownVolts | None
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


class LightSummary(Model):
    """Of the light that lamps were made for: the share at each point of the run's curve, and three of them by name."""

    shares: tuple[float, ...]
    at_first: ShownShare
    half_way: ShownShare
    at_the_end: ShownShare


class LoudnessSummary(Model):
    """How loud it gets at most against its design volts, dB, at each point of the run's curve, and three by name."""

    decibels: tuple[float, ...]
    at_first: ShownDecibels
    half_way: ShownDecibels
    at_the_end: ShownDecibels


class WhistleSummary(Model):
    """How often a converter works in bursts in a mode, and whether that can be heard."""

    bursts: ShownHertz
    is_heard: bool


class ModeSummary(Model):
    """One mode run from full to its end. `original_hours` is what the old batteries gave."""

    name: str
    hours_per_day: ShownHours
    hours: ShownHours
    service_hours: ShownHours | None  # those in which it does its job; None where nearly all are
    hours_least: ShownHours  # what a cell gives whose ions are slow, where the current is high for it
    stopped_by: str
    charge_ah: ShownAmpHours
    used: ShownShare  # of what the cell holds, when the run ends
    original_hours: ShownHours
    gadget_v_end: ShownVolts
    curve: RunCurve
    light: LightSummary | None  # None where nothing glows
    loudness: LoudnessSummary | None  # None where nothing sounds, or its own regulator keeps it as loud
    whistle: WhistleSummary | None  # None where nothing switches, or the gadget has no sound


class GaugeSummary(Model):
    """What the gadget's own gauge makes of the cell: its thresholds, and the share of charge left at each."""

    warn_v: ShownVolts
    stop_v: ShownVolts
    left_at_warning: ShownShare
    left_at_stop: ShownShare


class ProtectionSummary(Model):
    """The protection that lets the least current by, and who ends the run."""

    name: str
    cut_v: ShownVolts
    trip_least_a: ShownAmps
    trip_most_a: ShownAmps
    peak_a: ShownAmps
    drain_a: ShownAmps
    ends_the_run: str


class RunSummary(Model):
    """Run time by mode, at the surveyed daily use, and switched off. `drains` is by who takes it, A."""

    modes: tuple[ModeSummary, ...]
    days: ShownDays | None
    served_days: ShownDays | None = None  # those in which it does its job
    standby_days: ShownDays
    standby_a: ShownAmps
    drains: dict[Label, ShownAmps]
    gauge: GaugeSummary | None
    protection: ProtectionSummary | None


class GadgetVolts(Model):
    """The most and least the gadget sees."""

    max: ShownVolts
    min: ShownVolts


class CellSummary(Model):
    """The chosen cell or group."""

    capacity_ah: ShownAmpHours
    r_ohm: ShownOhms
    density_wh_per_l: float | None
    credible_capacity_ah: ShownAmpHours | None
    c_rate: float | None
    grade: Grade
    outer_margin_mm: ShownMillimetres | None


class Caution(Model):
    """What can hurt somebody, and at which stations that work is done."""

    text: Message
    stations: tuple[StationKey, ...]


class Assessment(Model):
    """All that can be said of one build. A part still to be chosen leaves its summary None."""

    findings: tuple[Finding, ...]
    worst: Level
    stations: dict[str, Level]
    path: PowerPath
    basis: dict[str, Basis]  # of every place of gadget and build; a place that is not there is *default*
    survey: SurveySummary
    cell: CellSummary | None = None
    charge: ChargeSummary | None = None  # on a board of ours alone
    charging: ChargingSummary | None = None
    run: RunSummary | None = None
    gadget_v: GadgetVolts | None = None
    payback: Payback | None = None
    worth: WorthIt | None = None  # None before a cell is chosen, or while no use is known
    cautions: tuple[Caution, ...] = ()
