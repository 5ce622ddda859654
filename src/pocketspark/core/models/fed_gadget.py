"""Another gadget that one pack serves: what has to be known of it before the pack is clipped to it."""

from pydantic import model_validator

from pocketspark.core.models.gadget import Behind, FrontEnd, Gadget, Mode, Window
from pocketspark.core.models.model import Amps, Hours, Row, Title, Volts, refusal
from pocketspark.core.units.figures import bare


class FedGadget(Row):
    """`v_run_min` and `v_abs_max`: between which volts it works, at its terminals; None: not found out yet."""

    name: Title = "another gadget"
    front_end: FrontEnd = "regulator"
    v_run_min: Volts | None = None
    v_abs_max: Volts | None = None
    current_a: Amps | None = None
    peak_a: Amps | None = None
    hours_per_day: Hours = 1.0

    @model_validator(mode="after")
    def _right_way_up(self) -> "FedGadget":
        if self.v_run_min is not None and self.v_abs_max is not None and self.v_run_min >= self.v_abs_max:
            raise refusal(
                "The lowest volts, {low} V, must be under the highest, {high} V",
                low=bare(self.v_run_min),
                high=bare(self.v_abs_max),
            )
        return self

    @property
    def is_known(self) -> bool:
        """Enough of it to be judged."""
        return None not in (self.v_run_min, self.v_abs_max, self.current_a)

    def in_place_of(self, gadget: Gadget) -> Gadget:
        """This gadget on the pack of that one, and where that one lives."""
        mode = Mode(
            id="fed",
            name=self.name,
            current_a=self.current_a or 0.0,
            peak_a=self.peak_a,
            hours_per_day=self.hours_per_day,
        )
        return Gadget(
            name=self.name,
            purpose=gadget.purpose,
            supply=gadget.supply,
            window=Window(v_run_min=self.v_run_min, v_abs_max=self.v_abs_max),
            front_end=self.front_end,
            behind=Behind(),
            modes=(mode,),
            shell=gadget.shell,
        )


def fed_gadget_of(gadget: Gadget) -> FedGadget:
    """A gadget of another conversion as one more on a pack: its window where that is stated, its heaviest mode."""
    heaviest = max(gadget.modes, key=lambda mode: mode.current_a, default=None)
    window = gadget.window or Window()
    return FedGadget(
        name=gadget.name,
        front_end=gadget.front_end,
        v_run_min=gadget.supply.empty_v if window.v_run_min is None else window.v_run_min,
        v_abs_max=gadget.supply.slot_v if window.v_abs_max is None else window.v_abs_max,
        current_a=heaviest.current_a if heaviest else None,
        peak_a=heaviest.peak_a if heaviest else None,
        hours_per_day=sum(mode.hours_per_day for mode in gadget.modes) or 1.0,
    )
