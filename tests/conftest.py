"""How generated examples are run: a busy machine is no failure, and a failure says how to come back to it."""

import json
import logging
import os
import random

import hypothesis.core
from hypothesis import HealthCheck, settings

# The test client calls the server by a name that no server of ours answers to.
os.environ["POCKETSPARK_HOSTS"] = json.dumps(["127.0.0.1", "localhost", "[::1]", "testserver"])

# Other examples each time; POCKETSPARK_SEED=N repeats a run. Workers inherit it.
SEED = os.environ.setdefault("POCKETSPARK_SEED", str(random.SystemRandom().randrange(1_000_000)))
hypothesis.core.global_force_seed = int(SEED)

settings.register_profile(
    "any_machine", deadline=None, print_blob=True, database=None, suppress_health_check=[HealthCheck.too_slow]
)
settings.load_profile("any_machine")


class RulesThatFail(logging.Handler):
    """A rule that breaks off is a finding for a maker, and a failure here."""

    def emit(self, record):
        if record.levelno >= logging.ERROR:
            raise AssertionError(record.getMessage()[:200])


logging.getLogger("pocketspark.rules").addHandler(RulesThatFail())


def pytest_report_header():
    return f"chances: POCKETSPARK_SEED={SEED} repeats this run"


def pytest_terminal_summary(terminalreporter):
    terminalreporter.write_line(f"POCKETSPARK_SEED={SEED}")
