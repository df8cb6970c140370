import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


def move_rows(apps, schema_editor):
    """What a version held of its rows becomes its first preparation; the newest version is the current one."""
    Version = apps.get_model("gather", "Version")
    Preparation = apps.get_model("gather", "Preparation")
    Table = apps.get_model("gather", "Table")
    from ypsil.core.tables.reading import Reading

    digest = Reading().digest()
    for version in Version.objects.all():
        Preparation.objects.create(
            version=version, digest=digest, is_base=True, rows_blob=version.rows_blob, row_count=version.row_count,
            columns=version.columns, values=version.values, grains=version.grains, remarks=version.remarks,
        )
    for table in Table.objects.all():
        table.current = Version.objects.filter(table=table).order_by("-number").first()
        table.save()


class Migration(migrations.Migration):
    dependencies = [("gather", "0001_initial"), migrations.swappable_dependency(settings.AUTH_USER_MODEL)]

    operations = [
        migrations.CreateModel(
            name="Preparation",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("digest", models.CharField(max_length=64)),
                ("is_base", models.BooleanField()),
                ("row_count", models.PositiveIntegerField()),
                ("columns", models.JSONField()),
                ("values", models.JSONField()),
                ("grains", models.JSONField(default=dict)),
                ("spreads", models.JSONField(default=dict)),
                ("remarks", models.JSONField(default=list)),
                ("results", models.JSONField(default=list)),
                ("sheets", models.JSONField(default=list)),
                ("encoding", models.CharField(blank=True, max_length=20)),
                ("separator", models.CharField(blank=True, max_length=4)),
                ("made", models.DateTimeField(auto_now_add=True)),
                ("rows_blob", models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="gather.blob")),
                ("version", models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name="preparations", to="gather.version")),
            ],
            options={"ordering": ["-made"]},
        ),
        migrations.AddConstraint("preparation", models.UniqueConstraint(fields=("version", "digest"), name="one_preparation_of_a_recipe")),
        migrations.AddField("table", "current", models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name="+", to="gather.version")),
        migrations.AddField("table", "held", models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name="+", to="gather.version")),
        migrations.AddField("table", "recipe", models.JSONField(default=dict)),
        migrations.AddField("table", "recipe_number", models.PositiveIntegerField(default=0)),
        migrations.AddField("table", "made_by", models.CharField(blank=True, max_length=200)),
        migrations.AddField("table", "origin", models.CharField(blank=True, max_length=500)),
        migrations.AddField("table", "dated", models.CharField(blank=True, max_length=100)),
        migrations.AddField("table", "licence", models.CharField(blank=True, max_length=200)),
        migrations.AddField("table", "note", models.TextField(blank=True, max_length=2000)),
        migrations.CreateModel(
            name="RecipeEdit",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("number", models.PositiveIntegerField()),
                ("recipe", models.JSONField()),
                ("said", models.CharField(blank=True, max_length=500)),
                ("made", models.DateTimeField(auto_now_add=True)),
                ("author", models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, to=settings.AUTH_USER_MODEL)),
                ("table", models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name="recipe_edits", to="gather.table")),
            ],
            options={"ordering": ["number"]},
        ),
        migrations.AddConstraint("recipeedit", models.UniqueConstraint(fields=("table", "number"), name="one_recipe_of_a_number")),
        migrations.AddField("arrival", "recipe", models.JSONField(null=True)),
        migrations.AddField("arrival", "said", models.CharField(blank=True, max_length=500)),
        migrations.AddField("arrival", "makes", models.CharField(blank=True, max_length=10)),
        migrations.RunPython(move_rows, migrations.RunPython.noop),
        migrations.RemoveField("version", "rows_blob"),
        migrations.RemoveField("version", "row_count"),
        migrations.RemoveField("version", "columns"),
        migrations.RemoveField("version", "values"),
        migrations.RemoveField("version", "grains"),
        migrations.RemoveField("version", "remarks"),
    ]
