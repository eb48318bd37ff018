"""Boards, what each measures, its readings, and what they gave alarm for."""

import uuid

from django.conf import settings
from django.db import models
from django.utils import timezone

from bathys.instruments import Channel
from bathys_web.plans.models import SavedPlan

__all__ = [
    "Board",
    "BoardChannel",
    "ForetoldHarm",
    "Incident",
    "RaisedAlarm",
    "Reading",
    "RigFault",
    "Rollup",
    "SentMessage",
    "UploadedReadings",
    "WatchSettings",
]


class Board(models.Model):
    """Something that sends readings of a plan. Whoever has its token may send for it; only the
    token's hash is kept."""

    plan = models.ForeignKey(SavedPlan, models.CASCADE, related_name="boards")
    key = models.UUIDField(default=uuid.uuid4, unique=True, editable=False)
    name = models.CharField(max_length=40)
    token_hash = models.CharField(max_length=64, unique=True, null=True)  # none once taken back
    is_simulated = models.BooleanField(default=False)
    heard = models.DateTimeField(null=True)
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ("pk",)

    def __str__(self) -> str:
        return self.name


class BoardChannel(models.Model):
    """One thing that a board measures."""

    board = models.ForeignKey(Board, models.CASCADE, related_name="channels")
    key = models.CharField(max_length=40)  # what the board calls it
    kind = models.CharField(max_length=20)  # of bathys.instruments.CHANNEL_KINDS
    part = models.CharField(max_length=40)
    unit = models.CharField(max_length=10, blank=True)  # label of the unit it sends
    offset = models.FloatField(default=0.0)  # added to what is sent, in SI
    mark = models.FloatField(default=0.0)  # of a float contact, over the floor [m]

    class Meta:
        ordering = ("pk",)
        constraints = (models.UniqueConstraint(fields=("board", "key"), name="one_channel_a_key"),)

    def __str__(self) -> str:
        return self.key

    def as_channel(self) -> Channel:
        """It, as the engine takes it: named by its number."""
        return Channel(str(self.pk), self.kind, self.part, self.mark)


class Reading(models.Model):
    """What a board read. The table is parted by month; see the migration that makes it."""

    pk = models.CompositePrimaryKey("channel_id", "at")
    channel = models.ForeignKey(BoardChannel, models.DO_NOTHING, related_name="+")
    at = models.DateTimeField()
    value = models.FloatField()  # in SI

    def __str__(self) -> str:
        return f"{self.channel_id} at {self.at}"


class Rollup(models.Model):
    """Readings of a minute, an hour or a day taken together."""

    pk = models.CompositePrimaryKey("channel_id", "step", "begin")
    channel = models.ForeignKey(BoardChannel, models.DO_NOTHING, related_name="+")
    step = models.IntegerField()  # [s]
    begin = models.DateTimeField()
    count = models.IntegerField()
    total = models.FloatField()  # of their values, in SI
    least = models.FloatField()
    most = models.FloatField()

    def __str__(self) -> str:
        return f"{self.channel_id} from {self.begin}"


class Incident(models.Model):
    """Something that went wrong on a plan: one at a time, however many instruments tell it."""

    plan = models.ForeignKey(SavedPlan, models.CASCADE, related_name="incidents")
    began = models.DateTimeField()
    noticed = models.DateTimeField(default=timezone.now)
    ended = models.DateTimeField(null=True)
    is_grave = models.BooleanField(default=False)
    causes = models.JSONField(default=list)  # failures that fit, the closest first
    seen = models.DateTimeField(null=True)
    told = models.DateTimeField(null=True)
    told_again = models.DateTimeField(null=True)

    class Meta:
        ordering = ("-began", "-pk")
        constraints = (
            models.UniqueConstraint(
                fields=("plan",), condition=models.Q(ended=None), name="one_open_incident_a_plan"
            ),
        )

    def __str__(self) -> str:
        return f"{self.plan_id} from {self.began}"


class RaisedAlarm(models.Model):
    """An alarm of an incident."""

    incident = models.ForeignKey(Incident, models.CASCADE, related_name="alarms")
    name = models.CharField(max_length=80)  # of bathys.instruments.Alarm.name
    kind = models.CharField(max_length=20)
    part = models.CharField(max_length=40, blank=True)
    measured = models.CharField(max_length=20, blank=True)  # kind of the channel
    began = models.DateTimeField()
    ended = models.DateTimeField(null=True)
    value = models.FloatField()
    limit = models.FloatField()

    class Meta:
        ordering = ("began", "pk")
        constraints = (
            models.UniqueConstraint(fields=("incident", "name"), name="one_alarm_a_name"),
        )

    def __str__(self) -> str:
        return self.name


class SentMessage(models.Model):
    """A message about what went wrong, as it was sent."""

    incident = models.ForeignKey(Incident, models.CASCADE, related_name="messages")
    way = models.CharField(max_length=10)  # of bathys_web.instruments.actions.tell.MESSENGERS
    to = models.CharField(max_length=254)
    title = models.CharField(max_length=300)
    at = models.DateTimeField()
    is_sent = models.BooleanField()

    class Meta:
        ordering = ("-at", "-pk")

    def __str__(self) -> str:
        return f"{self.way} to {self.to}"


class WatchSettings(models.Model):
    """How a plan is watched: who is told, and when not."""

    plan = models.OneToOneField(SavedPlan, models.CASCADE, related_name="watch")
    mails = models.BooleanField(default=True)
    pushes = models.BooleanField(default=True)  # where the application has a push service
    push_topic = models.UUIDField(default=uuid.uuid4)  # under which a phone listens for them
    also_to = models.EmailField(blank=True)  # who is told when nobody has seen it
    quiet_from = models.PositiveSmallIntegerField(default=1320)  # minutes after midnight
    quiet_until = models.PositiveSmallIntegerField(default=420)
    zone = models.CharField(max_length=60, default="UTC")
    looked = models.DateTimeField(null=True)  # when its readings were last gone through
    looked_ahead = models.DateTimeField(null=True)  # when its log was last gone through

    def __str__(self) -> str:
        return f"watch of {self.plan_id}"


class ForetoldHarm(models.Model):
    """Harm that was told of before it came, if nothing is cleaned."""

    plan = models.ForeignKey(SavedPlan, models.CASCADE, related_name="foretold")
    until = models.DateTimeField()  # all goes well until then
    words = models.CharField(max_length=500)
    told = models.DateTimeField()

    class Meta:
        ordering = ("-told", "-pk")

    def __str__(self) -> str:
        return f"{self.plan_id} until {self.until}"


class RigFault(models.Model):
    """Something that fails on a simulated board for a while."""

    board = models.ForeignKey(Board, models.CASCADE, related_name="faults")
    kind = models.CharField(max_length=20)  # of bathys.scenarios.failures.FailureKind
    place = models.CharField(max_length=40)
    begins = models.DateTimeField()
    ends = models.DateTimeField()

    class Meta:
        ordering = ("begins", "pk")

    def __str__(self) -> str:
        return f"{self.kind} {self.place}"


class UploadedReadings(models.Model):
    """A file of readings between being looked at and being taken."""

    owner = models.OneToOneField(
        settings.AUTH_USER_MODEL, models.CASCADE, related_name="uploaded_readings"
    )
    plan = models.ForeignKey(SavedPlan, models.CASCADE, related_name="+")
    text = models.TextField()
    created = models.DateTimeField(auto_now=True)

    def __str__(self) -> str:
        return f"{len(self.text)} letters"
