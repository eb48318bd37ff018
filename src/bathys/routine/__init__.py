"""What has to be done on the way into the first season, and again and again once a layout runs.

Public: :func:`jobs_of`, :func:`season_steps`.
"""

from bathys.routine.jobs import Job, jobs_of
from bathys.routine.start import SeasonStep, season_steps

__all__ = ["Job", "SeasonStep", "jobs_of", "season_steps"]
