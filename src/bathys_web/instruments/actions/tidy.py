"""Drop what is old: months of readings, files that nobody took."""

from datetime import timedelta

from django.core.cache import cache
from django.utils import timezone

from bathys_web.computing.housekeeping import housekeeping
from bathys_web.instruments.models import UploadedReadings
from bathys_web.instruments.storage import drop_old

__all__ = ["tidy_readings"]

_EVERY = 6 * 3600  # [s]


@housekeeping
def tidy_readings() -> None:
    """Once in some hours, whichever worker comes to it first."""
    if not cache.add("instruments.tidied", 1, _EVERY):
        return
    now = timezone.now()
    UploadedReadings.objects.filter(created__lt=now - timedelta(days=1)).delete()
    drop_old(now)
