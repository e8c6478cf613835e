"""Workshops, their jobs, every state that a job was in, and its photos."""

from __future__ import annotations

from django.conf import settings
from django.db import models

from ypsicline.server.work.row import LongWork


class Workshop(models.Model):
    name = models.CharField(max_length=80)
    members = models.ManyToManyField(settings.AUTH_USER_MODEL, related_name="workshops")
    owner = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+")
    house = models.TextField(default="", blank=True)
    last_ticket = models.PositiveIntegerField(default=0)

    def __str__(self) -> str:
        return self.name


class Invitation(models.Model):
    """Lets one person join a workshop, once; only the token's hash is kept."""

    workshop = models.ForeignKey(Workshop, on_delete=models.CASCADE, related_name="invitations")
    token_hash = models.CharField(max_length=64, unique=True)
    until = models.DateTimeField()

    def __str__(self) -> str:
        return f"invitation to {self.workshop_id}"


class Job(models.Model):
    """A job is its revision at `position`; those above it are there to redo. `latest` is the highest number ever used.

    What its ticket on the wall shows is written with every change: `name` to `due`, and the drawing and next step in
    `ticket_front`. `unreadable_at` is a position whose document couldn't be read.
    """

    workshop = models.ForeignKey(Workshop, on_delete=models.CASCADE, related_name="jobs")
    ticket = models.PositiveIntegerField()
    position = models.PositiveIntegerField(default=0)
    latest = models.PositiveIntegerField(default=0)
    changed_at = models.DateTimeField(auto_now=True)
    name = models.CharField(max_length=80, default="")
    for_whom = models.CharField(max_length=80, default="", blank=True)
    covers = models.CharField(max_length=200, default="", blank=True)
    due = models.DateField(null=True, blank=True)
    ticket_front = models.JSONField(default=dict)
    unreadable_at = models.PositiveIntegerField(null=True, blank=True)
    put_away_at = models.DateTimeField(null=True, blank=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["workshop", "ticket"], name="ticket_once_a_workshop")]
        indexes = [models.Index(fields=["workshop", "put_away_at", "due", "ticket"], name="wall_order")]

    def __str__(self) -> str:
        return f"ticket {self.ticket}"


class DocumentPart(models.Model):
    """A part of a job's documents, by the hash of its content; revisions share it. See `core.formats.stored`."""

    job = models.ForeignKey(Job, on_delete=models.CASCADE, related_name="parts")
    name = models.CharField(max_length=32)
    content = models.BinaryField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["job", "name"], name="part_once_a_job")]

    def __str__(self) -> str:
        return f"{self.name} of job {self.job_id}"


class Revision(models.Model):
    """A job's document after one change, without its parts; `what` is the change's message, or its words from before there were any."""

    job = models.ForeignKey(Job, on_delete=models.CASCADE, related_name="revisions")
    number = models.PositiveIntegerField()
    what = models.JSONField()
    document = models.BinaryField()
    by = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL)
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["job", "number"], name="revision_once_a_job")]

    def __str__(self) -> str:
        return f"{self.number} {self.what}"


class Photo(LongWork):
    """A photograph sent to a job, and what came of measuring it.

    Photos sent together are measured together: what comes of them stands on the first, their
    `leader`. `kind`, `side` and `height_mm` say what is looked for, as `capture_piece` takes them.
    """

    class Kind(models.TextChoices):
        PIECE = "piece"
        LINE = "line"
        MARKS = "marks"
        ROLL = "roll"

    class Side(models.TextChoices):
        CENTRE = "centre"
        INNER = "inner"
        OUTER = "outer"

    job = models.ForeignKey(Job, on_delete=models.CASCADE, related_name="photos")
    file = models.CharField(max_length=64)
    preview = models.CharField(max_length=64)
    name = models.CharField(max_length=120)
    width = models.PositiveIntegerField()
    height = models.PositiveIntegerField()
    result = models.JSONField(null=True)
    names = models.JSONField(default=list)
    leader = models.ForeignKey("self", null=True, on_delete=models.CASCADE, related_name="followers")
    kind = models.CharField(max_length=10, choices=Kind.choices, default=Kind.PIECE)
    side = models.CharField(max_length=10, choices=Side.choices, default=Side.CENTRE)
    height_mm = models.FloatField(default=0)
    dpi = models.FloatField(null=True)
    small_girth_mm = models.FloatField(null=True)
    large_girth_mm = models.FloatField(null=True)
    by_profile = models.BooleanField(default=True)
    taps = models.JSONField(default=dict)
    at = models.DateTimeField(auto_now_add=True)

    def __str__(self) -> str:
        return self.name

    def ended(self) -> None:
        self.followers.update(status=self.status)


class Camera(LongWork):
    """A workshop's camera, calibrated once from photos of the sheets; `files` are the photos that it is found in."""

    workshop = models.ForeignKey(Workshop, on_delete=models.CASCADE, related_name="cameras")
    files = models.JSONField(default=list)
    profile = models.TextField(blank=True)
    name = models.CharField(max_length=100, blank=True)
    width = models.PositiveIntegerField(default=0)
    height = models.PositiveIntegerField(default=0)
    focal_px = models.FloatField(null=True)
    at = models.DateTimeField(auto_now_add=True)

    def __str__(self) -> str:
        return self.name or "camera"


class PadFilling(LongWork):
    """A panel filled as a pad, as it stood at a revision. `pad` is what it looks like so far, first roughly and then finely.
    Where the least tapers that keep its corners in are `sought`, edges and whether they are curved, these are put on at the
    end, and the revision is the one with them."""

    job = models.ForeignKey(Job, on_delete=models.CASCADE, related_name="fillings")
    panel = models.CharField(max_length=40)
    revision = models.PositiveIntegerField()
    sought = models.JSONField(null=True)
    pad = models.JSONField(null=True)
    at = models.DateTimeField(auto_now_add=True)

    def __str__(self) -> str:
        return f"panel {self.panel} filled"


class KeptPhoto(models.Model):
    """A photo kept with a job as it is, of the dismantling for instance; `parts` are numbered places on it."""

    job = models.ForeignKey(Job, on_delete=models.CASCADE, related_name="kept_photos")
    file = models.CharField(max_length=64)
    preview = models.CharField(max_length=64)
    name = models.CharField(max_length=120)
    width = models.PositiveIntegerField()
    height = models.PositiveIntegerField()
    note = models.CharField(max_length=400, blank=True)
    parts = models.JSONField(default=list)
    at = models.DateTimeField(auto_now_add=True)

    def __str__(self) -> str:
        return self.name


class PhoneLink(models.Model):
    """Lets a phone send some photos to one job for a short while; only the token's hash is kept."""

    job = models.ForeignKey(Job, on_delete=models.CASCADE, related_name="phone_links")
    token_hash = models.CharField(max_length=64, unique=True)
    until = models.DateTimeField()
    photos_left = models.PositiveSmallIntegerField(default=0)

    def __str__(self) -> str:
        return f"phone link of job {self.job_id}"
