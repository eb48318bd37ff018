"""What has to be done again and again once a layout runs, and how often.

Public: :func:`jobs_of`.
"""

from bathys.routine.jobs import Job, jobs_of

__all__ = ["Job", "jobs_of"]
