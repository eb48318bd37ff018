"""The one task of the queue."""

from uuid import uuid4

from django.db import connection
from procrastinate import JobContext
from procrastinate.contrib.django import app

from bathys_web.computing.queue import TASK
from bathys_web.computing.working import work_on

__all__ = ["compute"]


@app.task(name=TASK, pass_context=True)
def compute(context: JobContext, key: str) -> None:
    """Work on a computation, in a thread of the worker.

    Parameters
    ----------
    context : JobContext
        What the queue knows of the job
    key : str
        Its key
    """
    try:
        lane = (context.job.queue if context.job else "") or ""
        work_on(key, uuid4().hex, lane)
    finally:
        connection.close()
