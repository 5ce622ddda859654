"""How generated examples are run: a busy machine is no failure, and a failure says how to come back to it."""

import json
import os

from hypothesis import HealthCheck, settings

# The test client calls the server by a name that no server of ours answers to.
os.environ["POCKETSPARK_HOSTS"] = json.dumps(["127.0.0.1", "localhost", "[::1]", "testserver"])

# What passes here passes in CI; POCKETSPARK_EXPLORE=1 goes other roads each time.
settings.register_profile(
    "any_machine",
    deadline=None,
    print_blob=True,
    suppress_health_check=[HealthCheck.too_slow],
    derandomize=not os.environ.get("POCKETSPARK_EXPLORE"),
)
settings.load_profile("any_machine")
