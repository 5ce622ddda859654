"""Wire: what a metal case joins, and what it keeps out."""

from collections.abc import Iterator

from pocketspark.core.chain import Chain
from pocketspark.core.finding import Judgement
from pocketspark.core.message import say
from pocketspark.core.rules.rule import caution, fine, note, remedy, rule, stop
from pocketspark.core.rules.wire.net_rules import PRACTICE
from pocketspark.core.wiring.build_in_nets import WiredBuild


@rule(
    "wire.case_unsaid",
    station="wire",
    node="gadget",
    source=PRACTICE,
    advice=say("Measure from the case to each battery terminal with the batteries out, and say which one it lies on."),
)
def case_unsaid(chain: Chain) -> Iterator[Judgement]:
    """A metal case lies on one of the terminals as a rule: on which has to be known."""
    if not chain.gadget.shell.metal or chain.cell is None:
        return
    if chain.build.wiring.case_touches is None:
        yield note(
            say("The case is metal, and the terminal that it lies on is not known."),
            working=say("On a terminal, it reaches every place where a bare wire or a pad can touch it."),
            subjects=(f"{chain.path}.wiring.case_touches",),
        )
    else:
        yield fine(say("The metal case lies on {pad}.", pad=chain.build.wiring.case_touches))


@rule(
    "wire.socket_shell",
    station="wire",
    node="protection",
    source="a USB socket's shell is joined to ground as a rule, and IN- to B- on common boards; common practice",
    advice=say("Insulate the socket's shell or widen its hole, and measure from shell to case: no contact."),
)
def socket_shell(wired: WiredBuild) -> Iterator[Judgement]:
    """A socket's shell that touches a metal case joins the case to the source's ground, past what lies between."""
    chain = wired.chain
    way_in = chain.build.input.facts
    if not chain.gadget.shell.metal or not (way_in.on_board or way_in.own_socket) or wired.parts.charger is None:
        return
    insulated = remedy(say("It is insulated"), {f"{chain.path}.wiring.socket_insulated": True})
    if chain.build.wiring.socket_insulated:
        yield fine(say("The socket's shell is insulated from the metal case."))
        return
    case, shell = wired.nets.case, f"{wired.parts.charger}.IN-"
    protected = [part.pad("B-") for part in wired.parts.by_key.values() if part.through and "B-" in part.pads]
    around = case is not None and any(
        wired.nets.reaches(pad, shell, without=[]) and wired.nets.same(case, wired.roles.gadget[1]) for pad in protected
    )
    if around:
        yield stop(
            say("The socket's shell touches the metal case, which lies on the gadget's minus: protection bypassed."),
            working=say("The shell is the charger's ground. On common boards that is the cell's own minus."),
            remedy=insulated,
            subjects=(shell,),
        )
    else:
        yield caution(
            say("The socket's shell can touch the metal case. It is joined to ground, and on common boards to B-."),
            working=say("Whatever of the gadget lies on the case then hangs on the cell past its protection."),
            remedy=insulated,
            subjects=(shell,),
        )
