"""Power: one pack for several gadgets, each of them judged as if it were the only one."""

from collections.abc import Iterator

from pocketspark.core.chain import Chain
from pocketspark.core.finding import Finding, Judgement
from pocketspark.core.message import say
from pocketspark.core.models.fed_gadget import FedGadget
from pocketspark.core.rules.rule import RULES, caution, findings_of, fine, note, remedy, rule
from pocketspark.core.units.figures import hours

# What another gadget changes: what it sees and draws. Where the pack lies and how it is wired stays.
JUDGED_AT = ("power", "cell", "charge")
HERE = "power.shared_pack"


@rule(
    HERE,
    station="power",
    source="the rules of Power, Cell and Charge, held against each gadget",
    advice=say("Write on the pack what it must not be clipped to, or leave that gadget off the list."),
)
def shared_pack(chain: Chain) -> Iterator[Judgement]:
    """A pack that is used here and there has to suit each gadget it is clipped to."""
    for fed in chain.build.also_feeds if chain.running else ():
        if not fed.is_known:
            wanted = say("Its lowest and highest volts and its current are wanted.")
            yield note(say("“{gadget}” on this pack is not judged yet.", gadget=fed.name), working=wanted)
            continue
        other = as_fed(chain, fed)
        against = stops_of(other, chain)
        run = other.running.heaviest_run if other.running else None
        if against:
            yield caution(
                say("Never clip it to “{gadget}”: {why}", gadget=fed.name, why=against[0].headline),
                working=against[0].working,
                remedy=remedy(say("Take it off the list"), {f"{chain.path}.also_feeds.{fed.id}": None}),
            )
        elif run is not None:
            yield fine(say("It runs “{gadget}” for {hours}.", gadget=fed.name, hours=hours(run.hours)))


def as_fed(chain: Chain, fed: FedGadget) -> Chain:
    """The same build with this gadget in the place of its own."""
    build = chain.build.model_copy(update={"also_feeds": ()})
    builds = (*chain.project.builds[: chain.build_number], build, *chain.project.builds[chain.build_number + 1 :])
    project = chain.project.model_copy(update={"gadget": fed.in_place_of(chain.gadget), "builds": builds})
    return Chain(project, chain.build_number, advises=False)


def stops_of(fed: Chain, own: Chain) -> list[Finding]:
    """What stands against this gadget alone: stops of the pack itself are told elsewhere."""
    codes = [code for code, one in RULES.items() if one.station in JUDGED_AT and code != HERE]
    of_the_pack = {one.code for one in findings_of(own, codes) if one.level == "stop"}
    return [one for one in findings_of(fed, codes) if one.level == "stop" and one.code not in of_the_pack]
