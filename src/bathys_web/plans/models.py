"""Plans as they are kept: a place each, and revisions that never change."""

import uuid
from datetime import datetime

from django.conf import settings
from django.contrib.postgres.fields import ArrayField
from django.db import models

from bathys.fieldlog import Logged
from bathys.parts.containers import Container
from bathys.parts.pumps import CatalogPump
from bathys.shelf import PriceList, ShelfPart

__all__ = [
    "AsDesigned",
    "BuildTicks",
    "DynamicVerdict",
    "LogEntry",
    "OwnContainer",
    "OwnPrices",
    "OwnPump",
    "Revision",
    "SavedPlan",
    "Trial",
]


class SavedPlan(models.Model):
    """A plan of its owner. Only ``head`` ever moves; ``origin`` is the revision that a
    variant was copied from; no revision has a greater number than ``last_number``."""

    key = models.UUIDField(default=uuid.uuid4, unique=True, editable=False)
    owner = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="plans")
    head = models.ForeignKey("Revision", models.PROTECT, null=True, related_name="+")
    origin = models.ForeignKey("Revision", models.SET_NULL, null=True, related_name="+")
    last_number = models.PositiveIntegerField(default=1)
    is_archived = models.BooleanField(default=False)
    labels = ArrayField(models.CharField(max_length=30), default=list)
    locked = ArrayField(models.CharField(max_length=40), default=list)  # ids of parts that stay
    brief = models.JSONField(default=dict)  # what was typed of it on the page of briefs; or nothing
    calendar = models.UUIDField(null=True, unique=True)  # who knows it reads the plan's calendar
    fills_on = models.DateField(null=True)  # the day on which its first season begins
    reasons = models.JSONField(default=list)  # why each size was so, as sized from the brief
    created = models.DateTimeField(auto_now_add=True)
    touched = models.DateTimeField(auto_now=True)

    class Meta:
        ordering = ("-touched",)

    def __str__(self) -> str:
        return str(self.key)

    @property
    def current(self) -> "Revision":
        """The revision that stands now: every plan has one as soon as it is stored."""
        assert self.head is not None  # noqa: S101 - see ``create_plan``
        return self.head


class Revision(models.Model):
    """One state of a plan. Rows are written once: a trigger refuses to change them."""

    plan = models.ForeignKey(SavedPlan, models.CASCADE, related_name="revisions")
    number = models.PositiveIntegerField()
    parent = models.ForeignKey("self", models.CASCADE, null=True, related_name="children")
    document = models.JSONField()
    what_changed = models.CharField(max_length=300)
    author = models.ForeignKey(settings.AUTH_USER_MODEL, models.SET_NULL, null=True)
    created = models.DateTimeField(auto_now_add=True)
    content_hash = models.CharField(max_length=64)
    physics_hash = models.CharField(max_length=64, default="")
    headlines = models.JSONField(default=dict)  # as the engine of that day told them

    class Meta:
        ordering = ("number",)
        constraints = (
            models.UniqueConstraint(fields=("plan", "number"), name="one_revision_a_number"),
        )

    def __str__(self) -> str:
        return f"{self.plan_id} r{self.number}"


class KeptBrief(models.Model):
    """The answers a builder gave last on the page of briefs, whether or not a plan came of them."""

    owner = models.OneToOneField(
        settings.AUTH_USER_MODEL, models.CASCADE, related_name="kept_brief"
    )
    typed = models.JSONField()  # what was typed, by field
    plan = models.ForeignKey(SavedPlan, models.SET_NULL, null=True, related_name="+")

    def __str__(self) -> str:
        return f"brief of {self.owner_id}"


class DynamicVerdict(models.Model):
    """What following a plan through time brought out, by the name of what figures come of, and the
    name of the engine that followed it."""

    physics_hash = models.CharField(max_length=64, unique=True)
    engine = models.CharField(max_length=16)
    faults = models.PositiveIntegerField()
    warnings = models.PositiveIntegerField()

    def __str__(self) -> str:
        return f"{self.physics_hash[:8]}: {self.faults} faults, {self.warnings} warnings"


class OwnPump(models.Model):
    """A pump a builder can buy, beside the catalogue."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="own_pumps")
    name = models.CharField(max_length=80)
    max_flow = models.FloatField()
    max_head = models.FloatField()
    exponent = models.FloatField(default=2.0)
    power = models.FloatField()
    points = models.JSONField(default=list)  # of its curve: flow and head [m³/s, m]; or none

    class Meta:
        ordering = ("name",)
        constraints = (
            models.UniqueConstraint(fields=("owner", "name"), name="one_own_pump_a_name"),
            models.CheckConstraint(
                condition=models.Q(max_flow__gt=0, max_head__gt=0, power__gt=0, exponent__gte=1),
                name="own_pump_is_a_pump",
            ),
        )

    def __str__(self) -> str:
        return self.name

    def as_catalog(self) -> CatalogPump:
        """The pump as the engine takes it."""
        return CatalogPump(
            self.name,
            self.max_flow,
            self.max_head,
            self.exponent,
            self.power,
            is_own=True,
            points=tuple((flow, head) for flow, head in self.points),
        )


class OwnPrices(models.Model):
    """What things cost where a builder lives, and what they have at hand."""

    owner = models.OneToOneField(
        settings.AUTH_USER_MODEL, models.CASCADE, related_name="own_prices"
    )
    data = models.JSONField()  # as ``PriceList.as_data`` gives it

    def __str__(self) -> str:
        return f"{len(self.data['prices'])} prices"

    def as_list(self) -> PriceList:
        """The prices as the engine takes them."""
        return PriceList.from_data(self.data)


class BuildTicks(models.Model):
    """Which steps of the work are done on a plan."""

    plan = models.OneToOneField(SavedPlan, models.CASCADE, related_name="ticks")
    done = models.JSONField()  # names of steps

    def __str__(self) -> str:
        return f"{len(self.done)} steps of {self.plan_id}"


class LogEntry(models.Model):
    """Something that was measured or done. ``key`` comes from whoever sent it: sent twice, it is
    kept once."""

    plan = models.ForeignKey(SavedPlan, models.CASCADE, related_name="log")
    key = models.UUIDField()
    kind = models.CharField(max_length=20)  # of bathys.fieldlog.ENTRY_KINDS
    part = models.CharField(max_length=40, blank=True)
    at = models.DateTimeField()
    values = models.JSONField()  # by field, in SI
    note = models.CharField(max_length=300, blank=True)
    author = models.ForeignKey(settings.AUTH_USER_MODEL, models.SET_NULL, null=True)
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ("-at", "-pk")
        constraints = (models.UniqueConstraint(fields=("plan", "key"), name="one_entry_a_key"),)
        indexes = (models.Index(fields=("plan", "kind", "part"), name="log_by_part"),)

    def __str__(self) -> str:
        return f"{self.kind} of {self.plan_id}"

    def age(self, now: datetime) -> float:
        """How long before a moment it was, below 0 after it [d]."""
        return (now - self.at).total_seconds() / 86400.0

    def logged(self, now: datetime) -> Logged:
        """It, as the engine takes it, its age counted from a moment."""
        return Logged(self.kind, self.part, self.values, max(self.age(now), 0.0))


class LogPhoto(models.Model):
    """A picture of an entry, made small, without what a camera writes into it."""

    entry = models.OneToOneField(LogEntry, models.CASCADE, related_name="photo")
    image = models.BinaryField()  # a JPEG

    def __str__(self) -> str:
        return f"photo of {self.entry_id}"


class Trial(models.Model):
    """Two parts that are compared fairly: what differs between them on purpose, and by what they
    are measured. The second may stand in another plan of the same owner."""

    plan = models.ForeignKey(SavedPlan, models.CASCADE, related_name="trials")
    title = models.CharField(max_length=80)
    differs = models.CharField(max_length=200)
    measure = models.CharField(max_length=20)  # of bathys.fieldlog.TRIAL_MEASURES
    first = models.CharField(max_length=40)
    second = models.CharField(max_length=40)
    other = models.ForeignKey(SavedPlan, models.CASCADE, null=True, related_name="+")
    began = models.DateTimeField(auto_now_add=True)
    from_days = models.PositiveSmallIntegerField(default=0)  # before it began, that count too

    class Meta:
        ordering = ("-began", "-pk")

    def __str__(self) -> str:
        return self.title


class AsDesigned(models.Model):
    """The revision that a plan is built by, since building began."""

    plan = models.OneToOneField(SavedPlan, models.CASCADE, related_name="as_designed")
    revision = models.ForeignKey(Revision, models.CASCADE, related_name="+")
    since = models.DateTimeField(auto_now_add=True)
    engine = models.CharField(max_length=16, default="")  # that told the rows
    rows = models.JSONField(default=dict)  # documents.KeptRows, in metric words

    def __str__(self) -> str:
        return f"{self.plan_id} by r{self.revision.number}"


class OwnContainer(models.Model):
    """A container that a builder has measured."""

    owner = models.ForeignKey(
        settings.AUTH_USER_MODEL, models.CASCADE, related_name="own_containers"
    )
    name = models.CharField(max_length=80)
    shape = models.JSONField()  # a shell as plan data, [m]
    litres = models.FloatField()

    class Meta:
        ordering = ("name",)
        constraints = (
            models.UniqueConstraint(fields=("owner", "name"), name="one_own_container_a_name"),
        )

    def __str__(self) -> str:
        return self.name

    def as_container(self) -> Container:
        """The container as the engine takes it."""
        return Container(f"own-{self.pk}", "Yours", self.name, dict(self.shape), self.litres)


class OwnPart(models.Model):
    """A part of any other kind that a builder has, of ``shelf.OWN_PART_KINDS``."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="own_parts")
    kind = models.CharField(max_length=20)  # of shelf.OWN_PART_KINDS
    name = models.CharField(max_length=80)
    figures = models.JSONField()  # by field, in SI

    class Meta:
        ordering = ("kind", "name")
        constraints = (
            models.UniqueConstraint(fields=("owner", "kind", "name"), name="one_own_part_a_name"),
        )

    def __str__(self) -> str:
        return self.name

    def as_shelf_part(self) -> ShelfPart:
        """The part as the engine takes it."""
        return ShelfPart(f"own-{self.pk}", self.kind, self.name, dict(self.figures))
