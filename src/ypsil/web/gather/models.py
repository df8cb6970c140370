"""Tables, their versions, and how they are prepared. Bytes are kept once, under their digest."""

from __future__ import annotations

from django.conf import settings
from django.db import models

from ypsil.core.tables.recipe import Recipe
from ypsil.web.uids import new_uid


class Blob(models.Model):
    """Some bytes, kept under their SHA-256."""

    digest = models.CharField(max_length=64, primary_key=True)
    content = models.BinaryField()


class Table(models.Model):
    """Named columns and rows that arrive again and again.

    ``current`` is the version that reports show. ``held`` is a newer one that lacks something they need, until
    the author decides. ``recipe`` says how files are read and the steps that follow; ``recipe_number`` is its place
    among its edits, so that they can be undone.
    """

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="tables")
    uid = models.CharField(max_length=20, unique=True, default=new_uid)
    name = models.CharField(max_length=200)
    created = models.DateTimeField(auto_now_add=True)
    current = models.ForeignKey("Version", null=True, on_delete=models.SET_NULL, related_name="+")
    held = models.ForeignKey("Version", null=True, on_delete=models.SET_NULL, related_name="+")
    recipe = models.JSONField(default=dict)
    recipe_number = models.PositiveIntegerField(default=0)
    made_by = models.CharField(max_length=200, blank=True)
    origin = models.CharField(max_length=500, blank=True)
    dated = models.CharField(max_length=100, blank=True)
    licence = models.CharField(max_length=200, blank=True)
    note = models.TextField(blank=True, max_length=2000)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["owner", "name"], name="one_table_of_a_name")]
        ordering = ["name"]

    def __str__(self) -> str:
        return self.name

    def read_recipe(self) -> Recipe:
        return Recipe.model_validate(self.recipe)


class ScreenPicture(models.Model):
    """A picture as large as screens show it, made once of what is kept at the size that print needs."""

    blob = models.OneToOneField(Blob, on_delete=models.CASCADE, primary_key=True, related_name="+")
    media_type = models.CharField(max_length=20)
    content = models.BinaryField()


class Thumbnail(models.Model):
    """A picture as large as screens show it where it is small, made once."""

    blob = models.OneToOneField(Blob, on_delete=models.CASCADE, primary_key=True, related_name="+")
    media_type = models.CharField(max_length=20)
    content = models.BinaryField()


class KeptPicture(models.Model):
    """A picture that somebody brought, made anew when it came; its reports name it by its content."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="pictures")
    blob = models.ForeignKey(Blob, on_delete=models.PROTECT, related_name="+")
    label = models.CharField(max_length=100)
    media_type = models.CharField(max_length=20)
    width = models.PositiveIntegerField()
    height = models.PositiveIntegerField()
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["owner", "blob"], name="one_picture_of_a_content")]
        ordering = ["-created"]

    def __str__(self) -> str:
        return self.label

    @property
    def name(self) -> str:
        return f"picture:{self.blob_id}"


class RecipeEdit(models.Model):
    """A table's recipe after one change of it; number 0 is the recipe it began with."""

    table = models.ForeignKey(Table, on_delete=models.CASCADE, related_name="recipe_edits")
    number = models.PositiveIntegerField()
    recipe = models.JSONField()
    said = models.CharField(max_length=500, blank=True)
    author = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE)
    made = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["table", "number"], name="one_recipe_of_a_number")]
        ordering = ["number"]


class Version(models.Model):
    """One arrival of a table's data: the file as it came. It is never changed."""

    table = models.ForeignKey(Table, on_delete=models.CASCADE, related_name="versions")
    number = models.PositiveIntegerField()
    file_name = models.CharField(max_length=255)
    sheet = models.CharField(max_length=255, blank=True)
    original = models.ForeignKey(Blob, on_delete=models.PROTECT, related_name="+")
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["table", "number"], name="one_version_of_a_number")]
        ordering = ["-number"]

    def __str__(self) -> str:
        return f"{self.table} {self.number}"


class Preparation(models.Model):
    """A version's rows under one recipe, kept by content: made again from the file whenever it is gone.

    ``digest`` names the recipe (and the tables it looked into). ``results`` says how each step that is on went;
    ``remarks``, ``sheets``, ``encoding`` and ``separator`` tell how the file was read.
    """

    version = models.ForeignKey(Version, on_delete=models.CASCADE, related_name="preparations")
    digest = models.CharField(max_length=64)
    is_base = models.BooleanField()
    rows_blob = models.ForeignKey(Blob, on_delete=models.PROTECT, related_name="+")
    row_count = models.PositiveIntegerField()
    columns = models.JSONField()
    values = models.JSONField()
    grains = models.JSONField(default=dict)
    ends = models.JSONField(default=dict)
    spreads = models.JSONField(default=dict)
    remarks = models.JSONField(default=list)
    results = models.JSONField(default=list)
    sheets = models.JSONField(default=list)
    encoding = models.CharField(max_length=20, blank=True)
    separator = models.CharField(max_length=4, blank=True)
    made = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["version", "digest"], name="one_preparation_of_a_recipe")]
        ordering = ["-made"]

    @property
    def problems(self) -> list[str]:
        return [result["problem"] for result in self.results if result["problem"]]


class Arrival(models.Model):
    """Long work on a table: a file on its way to becoming a version, a recipe on its way to being applied, or a
    file of the prepared rows being made (``makes`` is its ending; when done, ``original`` holds it).
    """

    class State(models.TextChoices):
        WAITING = "waiting"
        READING = "reading"
        DONE = "done"
        FAILED = "failed"
        CANCELLED = "cancelled"

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE)
    uid = models.CharField(max_length=20, unique=True, default=new_uid)
    table = models.ForeignKey(Table, null=True, on_delete=models.CASCADE)
    name = models.CharField(max_length=200)
    file_name = models.CharField(max_length=255)
    sheet = models.CharField(max_length=255, blank=True)
    recipe = models.JSONField(null=True)
    said = models.CharField(max_length=500, blank=True)
    makes = models.CharField(max_length=10, blank=True)
    original = models.ForeignKey(Blob, null=True, on_delete=models.PROTECT, related_name="+")
    state = models.CharField(max_length=10, choices=State.choices, default=State.WAITING)
    part_done = models.FloatField(default=0)
    # How often a worker has begun it: the one that has it in hand knows it by this number.
    begun = models.PositiveSmallIntegerField(default=0)
    message = models.TextField(blank=True)
    version = models.ForeignKey(Version, null=True, on_delete=models.SET_NULL)
    created = models.DateTimeField(auto_now_add=True)
