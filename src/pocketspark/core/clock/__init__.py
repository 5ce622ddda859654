"""The bench clock: what of all the work in hand waits for what, and when each thing is due."""

from pocketspark.core.clock.plan import Bench, Due, Timeline, plan
from pocketspark.core.clock.tasks import Job, Task, cell_job, job_of, jobs_of

__all__ = ["Bench", "Due", "Job", "Task", "Timeline", "cell_job", "job_of", "jobs_of", "plan"]
