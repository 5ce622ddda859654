"""What a rule or a step needs of a build is said by the type of its parameter; it is asked only where that is there."""

import inspect
from collections.abc import Callable, Mapping
from functools import cache
from typing import Any, get_type_hints

from pocketspark.core.chain import BoardCharging, Chain, Charging, ChosenCell, GivenCharging, Running
from pocketspark.core.circuit import Circuit, circuit_of
from pocketspark.core.fit.build_in_bay import FittedBuild, fitted_build
from pocketspark.core.wiring.build_in_nets import WiredBuild, wired_build

# How each view of a build is got from its chain; None where a part of it is not chosen yet.
VIEWS: Mapping[type, Callable[[Chain], Any]] = {
    Chain: lambda chain: chain,
    ChosenCell: lambda chain: chain.chosen_cell,
    Running: lambda chain: chain.running,
    Charging: lambda chain: chain.charging,
    BoardCharging: lambda chain: chain.board_charging,
    GivenCharging: lambda chain: chain.charging if isinstance(chain.charging, GivenCharging) else None,
    Circuit: lambda chain: circuit_of(chain.running) if chain.running else None,
    WiredBuild: wired_build,
    FittedBuild: fitted_build,
}


@cache
def view_wanted(function: Callable[..., Any]) -> type:
    """The type of a function's only parameter. Raises TypeError where that is no view of a build."""
    name = next(iter(inspect.signature(function).parameters))
    view = get_type_hints(function).get(name)
    if view not in VIEWS:
        raise TypeError(f"{function.__name__} asks for {view}, which is no view of a build")
    assert isinstance(view, type)
    return view


def view_for(function: Callable[..., Any], chain: Chain) -> Any:
    """What the function is to be called with, or None where the build is not that far."""
    return VIEWS[view_wanted(function)](chain)
