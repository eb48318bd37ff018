"""Everything that is somebody's own, as one archive of open formats."""

import csv
import io
import json
import zipfile
from collections.abc import Callable, Iterator
from typing import IO

from django.contrib.auth.models import User
from django.core.serializers.json import DjangoJSONEncoder
from django.utils.text import slugify

from bathys.cells import harmless
from bathys.plan import dump_plan
from bathys.shelf import write_prices
from bathys_web.learn.models import GivenTrial
from bathys_web.plans.actions.keep_prices import prices_of
from bathys_web.plans.models import LogEntry, LogPhoto, OwnContainer, OwnPart, OwnPump, SavedPlan
from bathys_web.plans.storing import plan_of

__all__ = ["MOST_REVISIONS", "also_exported", "write_archive"]

MorePlanFiles = Callable[[SavedPlan], Iterator[tuple[str, str]]]

MOST_REVISIONS = 300
"""So many of a plan's newest revisions are in the archive."""

_README = f"""All that Bathys keeps of you.

account.json      Your address and when the account was made.
pumps.json        Your own pumps: flow in m3/s, head in m, power in W.
containers.json   Your own containers, sizes in m.
parts.json        Your other parts, figures in SI.
given-trials.json Trials that you gave to all.
prices.csv        Your prices and what you have at hand; Parts can read it again.
plans/NAME/       One folder a plan.
  plan.json       The plan as it stands, a file that can be imported again.
  about.json      Labels, archive, when it was made and changed, and its brief.
  log.json        What was measured and done: its part, when, and what it says, in SI.
  trials.json     Parts that are compared, and by what.
  photos/         Photos of the log, by the key of their entry.
  boards.json     Boards, what each measures, and what was wrong when.
  readings.csv    What they read, by the hour, in SI.
  history.csv     Every revision: number, made from, when, what changed.
  revisions/      The newest {MOST_REVISIONS} revisions, each as the plan stood then.
"""


_more: list[MorePlanFiles] = []


def also_exported(files: MorePlanFiles) -> MorePlanFiles:
    """Register what another application keeps of a plan.

    Parameters
    ----------
    files : callable
        From a plan to names of files and what stands in each

    Returns
    -------
    callable
        The same, registered
    """
    _more.append(files)
    return files


def write_archive(user: User, file: IO[bytes]) -> None:
    """Write somebody's account, pumps and plans with their history.

    Parameters
    ----------
    user : User
        Whose
    file : binary file
        Where to
    """
    with zipfile.ZipFile(file, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr("README.txt", _README)
        account = {"email": user.email, "made": user.date_joined.isoformat()}
        archive.writestr("account.json", json.dumps(account, indent=1))
        fields = ("name", "max_flow", "max_head", "exponent", "power", "points")
        pumps = list(OwnPump.objects.filter(owner=user).values(*fields))
        archive.writestr("pumps.json", json.dumps(pumps, indent=1))
        own = list(OwnContainer.objects.filter(owner=user).values("name", "shape"))
        archive.writestr("containers.json", json.dumps(own, indent=1))
        parts = list(OwnPart.objects.filter(owner=user).values("kind", "name", "figures"))
        archive.writestr("parts.json", json.dumps(parts, indent=1))
        given = list(
            GivenTrial.objects.filter(owner=user).values("kind", "measured", "low", "high")
        )
        archive.writestr("given-trials.json", json.dumps(given, indent=1))
        prices = prices_of(user).prices.values()
        archive.writestr("prices.csv", write_prices(prices, "metric"))
        for saved in SavedPlan.objects.filter(owner=user, head__isnull=False).select_related(
            "head"
        ):
            _write_plan(archive, saved)


def _write_plan(archive: zipfile.ZipFile, saved: SavedPlan) -> None:
    plan = plan_of(saved.current)
    # Two plans may have one name, and a name may hold what no file's may.
    folder = f"plans/{slugify(plan.name)[:60] or 'plan'}-{str(saved.key)[:8]}"
    archive.writestr(f"{folder}/plan.json", dump_plan(plan))
    about = {
        "labels": saved.labels,
        "archived": saved.is_archived,
        "made": saved.created.isoformat(),
        "changed": saved.touched.isoformat(),
        "brief": saved.brief,
    }
    archive.writestr(f"{folder}/about.json", json.dumps(about, indent=1))
    fields = ("key", "kind", "part", "at", "values", "note")
    log = list(LogEntry.objects.filter(plan=saved).values(*fields))
    archive.writestr(f"{folder}/log.json", json.dumps(log, indent=1, cls=DjangoJSONEncoder))
    compared = list(saved.trials.values("title", "differs", "measure", "first", "second", "began"))
    archive.writestr(f"{folder}/trials.json", json.dumps(compared, indent=1, cls=DjangoJSONEncoder))
    for files in _more:
        for name, content in files(saved):
            archive.writestr(f"{folder}/{name}", content)
    photos = LogPhoto.objects.filter(entry__plan=saved).values_list("entry__key", "image")
    for key, image in photos.iterator():
        archive.writestr(f"{folder}/photos/{key}.jpg", bytes(image))
    history = io.StringIO()
    rows = csv.writer(history)
    rows.writerow(["number", "made from", "when", "what changed"])
    told = saved.revisions.values_list("number", "parent__number", "created", "what_changed")
    for number, parent, created, what in told.iterator():
        rows.writerow([number, parent or "", created.isoformat(), harmless(what)])
    archive.writestr(f"{folder}/history.csv", history.getvalue())
    newest = saved.revisions.order_by("-number")[:MOST_REVISIONS]
    for number, document in newest.values_list("number", "document").iterator():
        archive.writestr(f"{folder}/revisions/{number:05}.json", json.dumps(document, indent=1))
