"""What the maker has chosen and may choose otherwise so that it fits: a pouch kept flat, a pin, a cradle, a stop.

They cost nothing, so they are told before anything is cut or bought.
"""

from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace

from pocketspark.core.fit.answer_facts import Setting
from pocketspark.core.fit.blocks import Part
from pocketspark.core.fit.placing import setting_of
from pocketspark.core.message import Message, say
from pocketspark.core.models import Build, Project
from pocketspark.core.models.project import Edit


@dataclass(frozen=True)
class FitChange:
    """Something that can be done, what it makes of the setting, and the edits that do it; none: it has to be bought."""

    what: str
    subject: str
    says: Message
    to: Callable[[Setting], Setting]
    edits: tuple[Edit, ...] = ()


def own_choices(project: Project, build: int, setting: Setting) -> Iterator[FitChange]:
    """Each of the build's own choices that takes room, the other way."""
    chosen, at = project.builds[build], f"builds.{build}"
    pouches = [part.name for part in setting.parts if part.kind == "cell" and part.form == "pouch"]
    if pouches and not chosen.cell_any_way:
        says = say("Let the pouch stand on its edge")
        yield FitChange("edge", pouches[0], says, _on_edge, (Edit(path=f"{at}.cell_any_way", value=True),))
    for pin in chosen.pins:
        if any(part.name == pin.part for part in setting.parts):
            says = say("Let {part} lie anywhere", part=pin.part)
            yield FitChange(
                "pin", pin.part, says, _without_pin(pin.id), (Edit(path=f"{at}.pins.{pin.id}", value=None),)
            )
    yield from _without_prints(project, build, chosen, setting)


def _on_edge(setting: Setting) -> Setting:
    """Every pouch may; round cells may in any case."""
    parts = (replace(part, any_way=True) if part.kind == "cell" else part for part in setting.parts)
    return replace(setting, parts=tuple(parts))


def _without_pin(pin_id: str) -> Callable[[Setting], Setting]:
    return lambda setting: replace(setting, pins=tuple(pin for pin in setting.pins if pin.id != pin_id))


def _without_prints(project: Project, build: int, chosen: Build, setting: Setting) -> Iterator[FitChange]:
    """What is printed or glued beside the boards: they are smaller without it."""
    at = f"builds.{build}"
    for what, length_mm, says in (
        ("cradle", chosen.cradle_mm, say("Leave out the printed cradle")),
        ("stop", chosen.socket_stop_mm, say("Leave out the stop behind the socket, and glue it in beside the board")),
    ):
        if not length_mm:
            continue
        edit = Edit(path=f"{at}.{'cradle_mm' if what == 'cradle' else 'socket_stop_mm'}", value=0.0)
        without = setting_of(project.apply((edit,)), build)
        if without is None:
            continue
        smaller = {part.name: part for part in without.parts}
        subject = next((part.name for part in setting.parts if smaller.get(part.name) != part), what)
        yield FitChange(what, subject, says, _with_parts(smaller), (edit,))


def _with_parts(others: dict[str, Part]) -> Callable[[Setting], Setting]:
    return lambda setting: replace(setting, parts=tuple(others.get(part.name, part) for part in setting.parts))
