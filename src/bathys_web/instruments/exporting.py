"""What is kept of a plan's instruments, for the archive of somebody's own data."""

import csv
import io
import json
from collections.abc import Iterator

from django.core.serializers.json import DjangoJSONEncoder

from bathys_web.instruments.models import Incident, Rollup
from bathys_web.plans.exporting import also_exported
from bathys_web.plans.models import SavedPlan

__all__ = ["instrument_files"]

_HOUR = 3600


@also_exported
def instrument_files(saved: SavedPlan) -> Iterator[tuple[str, str]]:
    """Files of a plan's instruments; none where it has no boards.

    Parameters
    ----------
    saved : SavedPlan
        The plan

    Yields
    ------
    (str, str)
        Name of a file, and what stands in it
    """
    boards = [
        {
            "name": board.name,
            "made": board.created,
            "simulated": board.is_simulated,
            "channels": list(
                board.channels.values("key", "kind", "part", "unit", "offset", "mark")
            ),
        }
        for board in saved.boards.all()
    ]
    if not boards:
        return
    wrong = [
        {
            "began": incident.began,
            "ended": incident.ended,
            "causes": incident.causes,
            "alarms": list(incident.alarms.values("kind", "part", "began", "ended", "value")),
        }
        for incident in Incident.objects.filter(plan=saved).prefetch_related("alarms")
    ]
    told = {"boards": boards, "wrong": wrong}
    yield "boards.json", json.dumps(told, indent=1, cls=DjangoJSONEncoder)
    text = io.StringIO()
    rows = csv.writer(text)
    rows.writerow(["board", "channel", "hour", "readings", "mean", "least", "most"])
    hours = Rollup.objects.filter(channel__board__plan=saved, step=_HOUR)
    fields = ("channel__board__name", "channel__key", "begin", "count", "total", "least", "most")
    for board, key, begin, count, total, least, most in hours.order_by(
        "channel_id", "begin"
    ).values_list(*fields):
        rows.writerow([board, key, begin.isoformat(), count, total / count, least, most])
    yield "readings.csv", text.getvalue()
