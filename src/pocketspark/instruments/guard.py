"""A process of its own that holds the line to a supply or a load, and switches it off when nobody speaks to it.

Started as `python -m pocketspark.instruments.guard KIND ADDRESS`. A line of JSON comes in, a line goes out. Where none
comes for `SILENCE_S` while it is on, or the pipe ends because the server died, the device is switched off, and the
process ends.
"""

import json
import os
import select
import signal
import sys
from collections.abc import Callable, Iterator, Mapping
from typing import Any

from pocketspark.core.error import PocketSparkError
from pocketspark.core.load_laws.supply_sweep import SupplyLimits
from pocketspark.core.message import say
from pocketspark.instruments.electronic_load import ElectronicLoad, LoadLimits
from pocketspark.instruments.power_supply import PowerSupply
from pocketspark.instruments.scpi_device import ScpiDevice, switched_off

SILENCE_S = 2.0
# Nothing is switched on by it: whoever speaks to it may be starting another one's guard.
OFF_SILENCE_S = 10.0
Order = dict[str, Any]
LOAD_LIMITS = ("amps", "least_v", "sees_least_v", "sees_most_v")
DEVICES: Mapping[str, type[ScpiDevice]] = {"supply": PowerSupply, "load": ElectronicLoad}


def main(kind: str, address: str) -> None:
    # An interrupt at the terminal reaches the server too, which ends the pipe: then it is switched off.
    signal.signal(signal.SIGINT, signal.SIG_IGN)
    signal.signal(signal.SIGTERM, lambda *_: sys.exit(0))
    try:
        device = DEVICES[kind](address)
    except PocketSparkError as refusal:
        _say({"error": str(refusal)})
        return
    try:
        _say({"introduces": device.introduces, "simulated": device.simulated})
        for order in _orders(lambda: SILENCE_S if device.is_on else OFF_SILENCE_S):
            answer = _done(device, order)
            _say(answer)
            if "error" in answer:
                break
    finally:
        is_off = device.off()
        device.close()
        _say({"off": is_off or switched_off(DEVICES[kind], address)})


def _orders(patience_s: Callable[[], float]) -> Iterator[Order]:
    """Until the pipe ends, or silence for so long."""
    left = b""
    while select.select([0], [], [], patience_s())[0]:
        chunk = os.read(0, 65_536)
        if not chunk:
            return
        *lines, left = (left + chunk).split(b"\n")
        yield from (json.loads(line) for line in lines if line.strip())


def _done(device: ScpiDevice, order: Order) -> Order:
    try:
        return ORDERS[order["do"]](device, order)
    except PocketSparkError as refusal:
        return {"error": str(refusal)}
    except Exception:  # whatever the transport raises: the line broke, or it answers no more
        return {"error": str(say("the {called} does not answer any more", called=device.CALLED))}


def _protect(device: ScpiDevice, order: Order) -> Order:
    if isinstance(device, PowerSupply):
        device.protect(SupplyLimits(order["volts"], order["amps"]))
    elif isinstance(device, ElectronicLoad):
        device.protect(LoadLimits(**{name: order[name] for name in LOAD_LIMITS if name in order}))
    return {}


def _give(device: ScpiDevice, order: Order) -> Order:
    assert isinstance(device, PowerSupply)
    device.give(order["volts"])
    return {}


def _draw(device: ScpiDevice, order: Order) -> Order:
    assert isinstance(device, ElectronicLoad)
    device.draw(order["amps"])
    return {}


def _read(device: ScpiDevice, _order: Order) -> Order:
    assert isinstance(device, PowerSupply | ElectronicLoad)
    reading = device.read()
    return {"volts": reading.volts, "amps": reading.amps}


ORDERS: Mapping[str, Callable[[ScpiDevice, Order], Order]] = {
    "protect": _protect,
    "give": _give,
    "draw": _draw,
    "read": _read,
}


def _say(answer: Order) -> None:
    try:
        os.write(1, (json.dumps(answer) + "\n").encode())
    except OSError:  # nobody listens any more
        return


if __name__ == "__main__":
    main(sys.argv[1], sys.argv[2])
