"""How generated examples are run: a busy machine is no failure, and a failure says how to come back to it."""

from hypothesis import HealthCheck, settings

settings.register_profile("any_machine", deadline=None, print_blob=True, suppress_health_check=[HealthCheck.too_slow])
settings.load_profile("any_machine")
