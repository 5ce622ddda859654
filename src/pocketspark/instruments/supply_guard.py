"""A process of its own that holds the line to a supply, and switches it off when nobody speaks to it any more.

Started as `python -m pocketspark.instruments.supply_guard ADDRESS`. A line of JSON comes in, a line goes out. Where
none comes for `SILENCE_S`, or the pipe ends because the server died, the supply is switched off, and the process ends.
"""

import json
import os
import select
import signal
import sys
from collections.abc import Callable, Iterator
from typing import Any

from pocketspark.core.error import PocketSparkError
from pocketspark.core.load_laws.supply_sweep import SupplyLimits
from pocketspark.instruments.power_supply import PowerSupply, switched_off

SILENCE_S = 2.0


def main(address: str) -> None:
    # An interrupt at the terminal reaches the server too, which ends the pipe: then it is switched off.
    signal.signal(signal.SIGINT, signal.SIG_IGN)
    signal.signal(signal.SIGTERM, lambda *_: sys.exit(0))
    try:
        supply = PowerSupply(address)
    except PocketSparkError as refusal:
        _say({"error": str(refusal)})
        return
    try:
        _say({"introduces": supply.introduces, "simulated": supply.simulated})
        for order in _orders():
            answer = _done(supply, order)
            _say(answer)
            if "error" in answer:
                break
    finally:
        is_off = supply.off()
        supply.close()
        _say({"off": is_off or switched_off(address)})


def _orders() -> Iterator[dict[str, Any]]:
    """Until the pipe ends, or silence."""
    left = b""
    while select.select([0], [], [], SILENCE_S)[0]:
        chunk = os.read(0, 65_536)
        if not chunk:
            return
        *lines, left = (left + chunk).split(b"\n")
        yield from (json.loads(line) for line in lines if line.strip())


def _done(supply: PowerSupply, order: dict[str, Any]) -> dict[str, Any]:
    try:
        return _ORDERS[order["do"]](supply, order)
    except PocketSparkError as refusal:
        return {"error": str(refusal)}
    except Exception:  # whatever the transport raises: the line broke, or it answers no more
        return {"error": "the supply does not answer any more"}


def _protect(supply: PowerSupply, order: dict[str, Any]) -> dict[str, Any]:
    supply.protect(SupplyLimits(order["volts"], order["amps"]))
    return {}


def _give(supply: PowerSupply, order: dict[str, Any]) -> dict[str, Any]:
    supply.give(order["volts"])
    return {}


def _read(supply: PowerSupply, _order: dict[str, Any]) -> dict[str, Any]:
    reading = supply.read()
    return {"volts": reading.volts, "amps": reading.amps}


_ORDERS: dict[str, Callable[[PowerSupply, dict[str, Any]], dict[str, Any]]] = {
    "protect": _protect,
    "give": _give,
    "read": _read,
}


def _say(answer: dict[str, Any]) -> None:
    try:
        os.write(1, (json.dumps(answer) + "\n").encode())
    except OSError:  # nobody listens any more
        return


if __name__ == "__main__":
    main(sys.argv[1])
