"""What is stored: every revision of every project's document, the stock library, and long work."""

from __future__ import annotations

from aside.deletable import Deletable
from django.conf import settings
from django.db import models


class StoredProject(Deletable):
    """A project and the revision it stands at. ``version`` grows with every change, undo and redo included.

    A variant follows the design of the project that it is ``variant_of``, which it last ``followed`` at a revision;
    ``own`` is what it has of its own, as JSON. ``demo`` says that it came with the application.

    Without an ``owner`` it is the workshop's; ``shared`` is what makers may do with it whose it is not. ``begun_from``
    is the project that a maker took it as a copy of.
    """

    slug = models.SlugField(max_length=80, unique=True)
    name = models.CharField(max_length=80)
    version = models.PositiveIntegerField(default=1)
    changed = models.DateTimeField(auto_now=True)
    current = models.ForeignKey("Revision", null=True, on_delete=models.PROTECT, related_name="+")
    variant_of = models.ForeignKey("self", null=True, on_delete=models.SET_NULL, related_name="variants")
    own = models.TextField(default="")
    demo = models.BooleanField(default=False)
    followed = models.ForeignKey("Revision", null=True, on_delete=models.SET_NULL, related_name="+")
    owner = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="projects")
    shared = models.CharField(max_length=8, default="nobody")
    begun_from = models.ForeignKey("self", null=True, on_delete=models.SET_NULL, related_name="taken_on")

    class Meta:
        db_table = "workshop_project"
        ordering = ["-changed"]

    def __str__(self) -> str:
        return self.name


class Portrait(models.Model):
    """What a project looks like at a ``revision``, as SVG, compressed; drawn in a ``manner`` of its own."""

    project = models.OneToOneField(StoredProject, on_delete=models.CASCADE, related_name="portrait")
    revision = models.PositiveBigIntegerField()
    manner = models.PositiveIntegerField()
    svg = models.BinaryField()

    def __str__(self) -> str:
        return f"portrait of {self.project}"


class Proved(models.Model):
    """What a ``program`` found when it proved all sheets of a project as they were at a ``revision``.

    ``findings`` is JSON, what was ``shown`` compressed JSON; ``parts`` counts the copies, ``faults`` what was wrong.
    """

    project = models.ForeignKey(StoredProject, on_delete=models.CASCADE, related_name="proofs")
    revision = models.PositiveBigIntegerField(db_index=True)
    program = models.CharField(max_length=64)
    parts = models.PositiveIntegerField()
    faults = models.PositiveIntegerField()
    findings = models.TextField()
    shown = models.BinaryField()
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-id"]

    def __str__(self) -> str:
        return f"proof of {self.project}"


class Sending(models.Model):
    """A file of a project that was sent to the cutting service: which, of which revision, and its number there."""

    project = models.ForeignKey(StoredProject, on_delete=models.CASCADE, related_name="sendings")
    revision = models.ForeignKey("Revision", on_delete=models.CASCADE, related_name="+")
    version = models.PositiveIntegerField()
    name = models.CharField(max_length=120)
    number = models.PositiveIntegerField()
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-id"]

    def __str__(self) -> str:
        return self.name


class KeptStarter(models.Model):
    """A starter of a maker's own, as its file."""

    name = models.CharField(max_length=80)
    content = models.TextField()
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["name", "id"]

    def __str__(self) -> str:
        return self.name


class Version(models.Model):
    """A state of a project that was given a name."""

    project = models.ForeignKey(StoredProject, on_delete=models.CASCADE, related_name="versions")
    revision = models.ForeignKey("Revision", on_delete=models.CASCADE, related_name="+")
    name = models.CharField(max_length=80)
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-id"]

    def __str__(self) -> str:
        return self.name


class Ground(models.Model):
    """A whole document, compressed, from which the revisions that stand upon it differ."""

    project = models.ForeignKey(StoredProject, on_delete=models.CASCADE, related_name="grounds")
    whole = models.BinaryField()

    def __str__(self) -> str:
        return f"{len(self.whole)} bytes"


class Revision(models.Model):
    """One state of a document, as its ``difference`` from a whole one. Undo goes to the parent, redo to the newest
    child. ``by`` is the maker who made it, if they came in by a name.
    """

    project = models.ForeignKey(StoredProject, on_delete=models.CASCADE, related_name="revisions")
    parent = models.ForeignKey("self", null=True, on_delete=models.CASCADE, related_name="children")
    label = models.CharField(max_length=200)
    ground = models.ForeignKey(Ground, on_delete=models.RESTRICT, related_name="revisions")
    difference = models.BinaryField()
    created = models.DateTimeField(auto_now_add=True)
    # Looked for by nobody: an index would be written with every edit.
    by = models.ForeignKey(
        settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+", db_index=False
    )

    class Meta:
        ordering = ["-id"]

    def __str__(self) -> str:
        return self.label


class BroughtFile(Deletable):
    """A drawing that somebody brought, kept as it was with the project that it was brought into.

    ``earlier`` is the file that it is a newer one of; ``choices`` are what was chosen when it was last taken;
    ``making`` is one for files of one kind with the same rows; ``reading`` what was read of it, as compressed JSON.
    """

    project = models.ForeignKey(StoredProject, on_delete=models.CASCADE, related_name="brought")
    name = models.CharField(max_length=120)
    data = models.BinaryField()
    earlier = models.ForeignKey("self", null=True, on_delete=models.SET_NULL, related_name="newer")
    choices = models.TextField(default="")
    making = models.CharField(max_length=64, default="", db_index=True)
    reading = models.BinaryField(null=True)
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-id"]

    def __str__(self) -> str:
        return self.name


class Kept(models.Model):
    """Something that is kept for other projects, as its JSON."""

    name = models.CharField(max_length=80, unique=True)
    document = models.TextField()

    class Meta:
        abstract = True
        ordering = ["name"]

    def __str__(self) -> str:
        return self.name


class LibraryStock(Kept):
    """A stock that is kept, since when it is as measured as it is, and as JSON as it was measured before."""

    since = models.DateTimeField(null=True)
    earlier = models.TextField(default="[]")


class LibraryCutter(Kept):
    """A cutter that is kept."""


class LibraryMachine(Kept):
    """A machine that is kept."""


class Proposed(models.Model):
    """A stock, machine or cutter (``kind``) that a maker by a name proposes for the library, as its JSON."""

    who = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="proposals")
    kind = models.CharField(max_length=8)
    name = models.CharField(max_length=80)
    document = models.TextField()
    since = models.DateTimeField(auto_now=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["who", "kind", "name"], name="proposed_once")]

    def __str__(self) -> str:
        return f"{self.name}, of {self.who}"


class WorkshopRates(models.Model):
    """What things are worth to the workshop, as JSON: one row, if any."""

    document = models.TextField()

    def __str__(self) -> str:
        return "rates"


class ShelfOffcut(models.Model):
    """An offcut: its stock by name, its size (mm), and its corners as JSON pairs, from its own corner.

    It is ``there`` on the shelf from the step of a project that it was ``cut_in`` until that which it was ``used_in``;
    whoever takes one of those back has it as it was before.
    """

    stock = models.CharField(max_length=80)
    width = models.FloatField()
    height = models.FloatField()
    outline = models.TextField()
    came_from = models.CharField(max_length=80)
    there = models.BooleanField(default=True)
    cut_in = models.ForeignKey(Revision, null=True, on_delete=models.SET_NULL, related_name="offcuts")
    used_in = models.ForeignKey(Revision, null=True, on_delete=models.SET_NULL, related_name="offcuts_used")
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["stock", "-id"]

    def __str__(self) -> str:
        return f"{self.stock}, {self.width:.0f} x {self.height:.0f}"


class ReferencePicture(models.Model):
    """A picture laid under the drawing of a part, by the hash of its bytes."""

    key = models.CharField(max_length=64, unique=True)
    data = models.BinaryField()
    width = models.PositiveIntegerField()
    height = models.PositiveIntegerField()

    def __str__(self) -> str:
        return self.key


class BedPicture(models.Model):
    """A picture of the bed or of a scrap for a project, with its marks as JSON; ``flat`` is how it lies on the bed."""

    project = models.OneToOneField(StoredProject, on_delete=models.CASCADE, related_name="picture")
    data = models.BinaryField()
    width = models.PositiveIntegerField()
    height = models.PositiveIntegerField()
    marks = models.TextField(default="")
    flat = models.BinaryField(null=True)
    left = models.FloatField(default=0)
    bottom = models.FloatField(default=0)
    right = models.FloatField(default=0)
    top = models.FloatField(default=0)
    changed = models.DateTimeField(auto_now=True)

    def __str__(self) -> str:
        return f"Picture of {self.project}"


class Run(models.Model):
    """Long work on a project: nesting, proof, dry fit or the reading of a file, with its progress and best result.

    ``worker`` is the process that carries it out, ``beat`` when that was last heard of, ``by`` the maker who asked. A
    result is ``offered`` where the project has changed meanwhile, so that the maker decides.
    """

    KINDS = [("nest", "Nesting"), ("prove", "Proof"), ("fit", "Dry fit"), ("read", "Reading")]
    STATES = [(s, s) for s in ("waiting", "running", "done", "stopped", "failed")]

    project = models.ForeignKey(StoredProject, on_delete=models.CASCADE, related_name="runs")
    kind = models.CharField(max_length=8, choices=KINDS)
    state = models.CharField(max_length=8, choices=STATES, default="waiting")
    progress = models.FloatField(default=0)
    seconds = models.FloatField(default=10)
    stop_asked = models.BooleanField(default=False)
    message = models.CharField(max_length=400, default="")
    result = models.TextField(default="")
    offered = models.BooleanField(default=False)
    version = models.PositiveIntegerField()
    file = models.ForeignKey(BroughtFile, null=True, on_delete=models.SET_NULL, related_name="runs")
    worker = models.CharField(max_length=64, default="")
    beat = models.DateTimeField(null=True)
    by = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+")
    created = models.DateTimeField(auto_now_add=True)

    def __str__(self) -> str:
        return f"{self.kind} of {self.project}"


def nothing_is_there() -> bool:
    """Whether nobody has made or kept anything yet."""
    return not StoredProject.objects.exists() and not LibraryStock.objects.exists()
