import django.db.models.functions.text
from django.db import migrations, models

import ypsil.web.accounts.models


def tell_apart(apps, schema_editor):
    """Give a number to later names that differ from an earlier one in capitals alone; nobody can sign in with them as
    they were, for they would be the earlier one."""
    User = apps.get_model("accounts", "User")
    taken = {}
    for user in User.objects.order_by("pk"):
        low = user.username.lower()
        if low in taken:
            number = 2
            while f"{low}-{number}" in taken:
                number += 1
            user.username = f"{user.username[:140]}-{number}"
            user.save(update_fields=["username"])
        taken[user.username.lower()] = user.pk


class Migration(migrations.Migration):
    dependencies = [("accounts", "0001_initial"), ("auth", "0012_alter_user_first_name_max_length")]

    operations = [
        migrations.AlterModelManagers(name="user", managers=[("objects", ypsil.web.accounts.models.UserManager())]),
        migrations.RunPython(tell_apart, migrations.RunPython.noop),
        migrations.AddConstraint(
            model_name="user",
            constraint=models.UniqueConstraint(
                django.db.models.functions.text.Lower("username"),
                name="one_account_of_a_name",
                violation_error_message="This name is already taken.",
            ),
        ),
    ]
