"""A pack for several gadgets: what it gives, whom it serves for how long, and what it must never be clipped to."""

from collections.abc import Iterator

from pocketspark.core.chain import Chain, Running
from pocketspark.core.message import Message, say
from pocketspark.core.models import Project
from pocketspark.core.models.model import Model
from pocketspark.core.rules.power.several_gadgets import as_fed, stops_of
from pocketspark.core.units.figures import ShownAmps, ShownHours, ShownVolts, amps, volts

# A protection may open so much under what it is said to.
PEAK_SHARE = 1 / 1.3


class ServedGadget(Model):
    """One gadget on the pack. `serves`: None while too little is known of it. `hours`: of its use; None: none."""

    id: str
    name: str
    serves: bool | None
    hours: ShownHours | None
    why: Message


class SharedPack(Model):
    """What stands on the pack. `label`: to be written on it, one line after the other."""

    least_v: ShownVolts
    most_v: ShownVolts
    most_a: ShownAmps
    served: tuple[ServedGadget, ...]
    label: tuple[Message, ...]


def shared_pack(project: Project, build: int) -> SharedPack:
    """Raises MissingPart before a cell is chosen."""
    chain = Chain(project, build)
    running = chain.required_running()
    least_v, most_v = running.gadget_v_min, running.gadget_v_max
    served = tuple(_served(chain, running))
    most_a = _most_a(running)
    return SharedPack(
        least_v=least_v,
        most_v=most_v,
        most_a=most_a,
        served=served,
        label=tuple(_label(least_v, most_v, most_a, served)),
    )


def _served(chain: Chain, running: Running) -> Iterator[ServedGadget]:
    own = running.heaviest_run
    yield ServedGadget(
        id="", name=chain.gadget.name, serves=True if own else None, hours=own.hours if own else None, why=say("")
    )
    for fed in chain.build.also_feeds:
        if not fed.is_known:
            why = say("Its lowest and highest volts and its current are wanted.")
            yield ServedGadget(id=fed.id, name=fed.name, serves=None, hours=None, why=why)
            continue
        other = as_fed(chain, fed)
        against = stops_of(other, chain)
        run = other.running.heaviest_run if other.running else None
        yield ServedGadget(
            id=fed.id,
            name=fed.name,
            serves=not against,
            hours=run.hours if run and not against else None,
            why=against[0].headline if against else say(""),
        )


def _most_a(running: Running) -> float:
    """What may be drawn at most: by its protection, its cell, its regulator and its fuse, whichever says least."""
    chosen, build = running.chosen, running.build
    limits = [one.trip_current_a * (1 - one.trip_tolerance) * PEAK_SHARE for one in running.chain.protections]
    limits += [cell.discharge_max_a for cell in build.cells if cell.discharge_max_a is not None][:1]
    limits += [one.rated_a for one in chosen.regulators_in_the_way if one.rated_a is not None]
    limits += [build.fuse_a] if build.fuse_a is not None else []
    return min(limits, default=running.cell.planning_capacity_ah)


def _label(least_v: float, most_v: float, most_a: float, served: tuple[ServedGadget, ...]) -> Iterator[Message]:
    most = amps(float(f"{most_a:.2g}"))
    yield say("{least} to {most}, {amps} at most.", least=volts(least_v), most=volts(most_v), amps=most)
    for one in served:
        if one.serves:
            yield say("For: {gadget}", gadget=one.name)
    for one in served:
        if one.serves is False:
            yield say("Never: {gadget}", gadget=one.name)
    yield say("Never: anything rated for less than {most}", most=volts(most_v))
    yield say("Never: a gadget whose batteries are still in it, or that is plugged in")
    yield say("Never: two such packs on one gadget")
