"""The bench clock: what of all the work in hand waits for what, and when each thing is due."""

from pocketspark.core.clock.plan import Due, Timeline, Workbench, plan
from pocketspark.core.clock.tasks import RECHARGE, JobInHand, Task, cell_job, job_of, jobs_of, recharge_job

__all__ = [
    "RECHARGE",
    "Workbench",
    "Due",
    "JobInHand",
    "Task",
    "Timeline",
    "cell_job",
    "job_of",
    "jobs_of",
    "plan",
    "recharge_job",
]
