"""A corner as a maker would say it."""

from collections.abc import Mapping

from pocketspark.core.circuit.corners import Corner, Feed
from pocketspark.core.circuit.uses import UseKind
from pocketspark.core.message import Message, Value, _, say
from pocketspark.core.units.figures import volts

_STATES: Mapping[tuple[UseKind, Feed], str] = {
    ("asleep", "unplugged"): _("Switched off, with {rest_v} in the cell."),
    ("asleep", "plugged in"): _("Switched off and plugged in, with {rest_v} in the cell."),
    ("asleep", "plugged in, no cell"): _("Switched off and plugged in, with no cell."),
    ("mode", "unplugged"): _("In “{mode}”, with {rest_v} in the cell."),
    ("mode", "plugged in"): _("In “{mode}”, plugged in, with {rest_v} in the cell."),
    ("mode", "plugged in, no cell"): _("In “{mode}”, plugged in with no cell."),
    ("peak", "unplugged"): _("At the peak of “{mode}”, with {rest_v} in the cell."),
    ("peak", "plugged in"): _("At the peak of “{mode}”, plugged in, with {rest_v} in the cell."),
    ("peak", "plugged in, no cell"): _("At the peak of “{mode}”, plugged in with no cell."),
    ("cold filament", "unplugged"): _("While the filament of “{mode}” is cold, with {rest_v} in the cell."),
    ("cold filament", "plugged in"): _(
        "While the filament of “{mode}” is cold, plugged in, with {rest_v} in the cell."
    ),
    ("cold filament", "plugged in, no cell"): _("While the filament of “{mode}” is cold, plugged in with no cell."),
    ("asleep", "plugged in, flat cell"): _("Switched off and plugged in with a flat cell."),
    ("mode", "plugged in, flat cell"): _("In “{mode}”, plugged in with a flat cell."),
    ("peak", "plugged in, flat cell"): _("At the peak of “{mode}”, plugged in with a flat cell."),
    ("cold filament", "plugged in, flat cell"): _(
        "While the filament of “{mode}” is cold, plugged in with a flat cell."
    ),
    ("stalled", "plugged in, flat cell"): _("With the motor held fast, plugged in with a flat cell."),
    ("asleep", "old adapter"): _("Switched off, with the old adapter in its jack and {rest_v} in the cell."),
    ("mode", "old adapter"): _("In “{mode}”, with the old adapter in its jack and {rest_v} in the cell."),
    ("stalled", "unplugged"): _("With the motor held fast, and {rest_v} in the cell."),
    ("stalled", "plugged in"): _("With the motor held fast, plugged in, and {rest_v} in the cell."),
    ("stalled", "plugged in, no cell"): _("With the motor held fast, plugged in with no cell."),
}
_AT_THE_END = _("{state} The source and the charger are at the end of their tolerance.")
_WORN = _("{state} Once the cell is worn.")


def corner_in_words(corner: Corner) -> Message:
    """In which state it is."""
    values: dict[str, Value] = {}
    if corner.use.mode and corner.use.kind != "stalled":
        values["mode"] = corner.use.mode.name
    if corner.rest_v is not None:
        values["rest_v"] = volts(corner.rest_v)
    state = say(_STATES[corner.use.kind, corner.feed], **values)
    if corner.tolerance == "worn":
        return say(_WORN, state=state)
    return state if corner.tolerance == "nominal" else say(_AT_THE_END, state=state)
