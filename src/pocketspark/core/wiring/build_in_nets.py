"""A build with its nets: what rules about the wiring are asked with."""

from dataclasses import dataclass
from functools import lru_cache

from pocketspark.core.chain import Chain, Running
from pocketspark.core.hookup.hookup import hook_up
from pocketspark.core.hookup.nets import Nets, nets_of
from pocketspark.core.hookup.wired_parts import Parts, Roles
from pocketspark.core.models import Build, Gadget, Project


@dataclass(frozen=True)
class WiredBuild:
    """A build in use, and its nets as they stand, whoever made them."""

    chain: Chain
    running: Running
    nets: Nets

    @property
    def parts(self) -> Parts:
        return self.nets.hookup.parts

    @property
    def roles(self) -> Roles:
        return self.parts.roles


def wired_build(chain: Chain) -> WiredBuild | None:
    """None before a cell is chosen: wires begin at its leads."""
    return WiredBuild(chain, chain.running, _nets(chain.gadget, chain.build)) if chain.running else None


@lru_cache(maxsize=64)
def _nets(gadget: Gadget, build: Build) -> Nets:
    """A dozen rules look at the same nets, which hang on nothing but gadget and build."""
    chain = Chain(Project(gadget=gadget, builds=(build,)), 0)
    return nets_of(hook_up(chain), build.wiring.case_touches)
