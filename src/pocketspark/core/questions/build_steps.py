"""The steps of a build as they may be taken: with a stop against it, the case stays shut until a reason is given."""

from collections.abc import Sequence

from pocketspark.core.chain import Chain
from pocketspark.core.finding import Finding
from pocketspark.core.message import Message
from pocketspark.core.models import Build, Project
from pocketspark.core.rules import findings_of
from pocketspark.core.steps import Lock, Procedure, Step, procedure
from pocketspark.core.steps.verdict import verdict_of

# What nobody may convert, whatever the reason.
FORBIDDEN = "survey.not_to_be_converted"


def build_steps(project: Project, build: int = 0) -> Procedure:
    """Every step with its state, locked ones too. Raises MissingPart before a cell is chosen."""
    steps, chain = procedure(project, build), Chain(project, build)
    lock = lock_of(chain, steps.steps)
    if lock is None:
        return steps.model_copy(update={"verdict": verdict_of(chain, steps)})
    keys = [step.key for step in steps.steps]
    shut = set(keys[keys.index(lock.from_step) :])
    locked = tuple(step.model_copy(update={"state": "locked"}) if step.key in shut else step for step in steps.steps)
    first = next((step.key for step in locked if step.state in ("open", "held")), lock.from_step)
    steps = steps.model_copy(update={"steps": locked, "lock": lock, "next_step": first, "finished": False})
    return steps.model_copy(update={"verdict": verdict_of(chain, steps)})


def lock_of(chain: Chain, steps: Sequence[Step]) -> Lock | None:
    """Why it may not go on, and from where: wholly where it is forbidden, else from the step that opens the case."""
    stops = [finding for finding in findings_of(chain) if finding.level == "stop"]
    final = any(finding.code == FORBIDDEN for finding in stops)
    if not stops or (_unlocked(chain.build) and not final):
        return None
    first = steps[0].key if final else next(step.key for step in steps if step.opens)
    return Lock(from_step=first, because=tuple(_said(stops)), final=final)


def _unlocked(build: Build) -> bool:
    """A practice copy opens no case."""
    return build.practice or bool(build.record.built_although)


def _said(stops: Sequence[Finding]) -> list[Message]:
    """What is forbidden first."""
    ordered = sorted(stops, key=lambda finding: finding.code != FORBIDDEN)
    return [finding.headline for finding in ordered]
