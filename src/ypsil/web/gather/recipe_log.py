"""The log of a table's recipe: every change is kept, so that it can be undone."""

from __future__ import annotations

from django.db import transaction

from ypsil.core.tables.recipe import Recipe, parse_recipe
from ypsil.core.tables.steps import StepRefused
from ypsil.web.accounts.services import User
from ypsil.web.gather import holding
from ypsil.web.gather.models import Preparation, RecipeEdit, Table


def refuse_new_problems(table: Table, recipe: Recipe, preparation: Preparation) -> None:
    """Refuse a recipe with a step that is new and cannot be applied; those that were there before may stay unfit."""
    before = {step.sentence() for step in table.read_recipe().steps}
    active = [step for step in recipe.steps if step.on]
    for step, result in zip(active, preparation.results, strict=False):
        if step.sentence() not in before and result["problem"]:
            raise StepRefused(result["problem"], place=result.get("place"))


def save_recipe(table: Table, user: User, recipe: Recipe, said: str, *, goes_on: str = "") -> None:
    """Keep a changed recipe as the newest edit; a held version that fits now is let in.

    Where the edit before was said to be the same, and begins as ``goes_on`` says, the two become one: many small
    changes in one go are taken back at once.
    """
    holding.prepare_held(table, recipe)
    with transaction.atomic():
        if Table.objects.get(pk=table.pk).recipe_number != table.recipe_number:
            raise StepRefused("the steps were changed elsewhere in the meantime", remedy="load the page again")
        table.recipe_edits.filter(number__gt=table.recipe_number).delete()
        if not table.recipe_edits.exists():
            RecipeEdit.objects.create(table=table, number=table.recipe_number, recipe=table.recipe, author=user)
        table.recipe = recipe.model_dump(mode="json")
        last = table.recipe_edits.filter(number=table.recipe_number, author=user, said=said[:500]).first()
        if goes_on and said.startswith(goes_on) and last is not None:
            last.recipe = table.recipe
            last.save(update_fields=["recipe"])
        else:
            table.recipe_number += 1
            RecipeEdit.objects.create(
                table=table, number=table.recipe_number, recipe=table.recipe, said=said[:500], author=user
            )
        table.save(update_fields=["recipe", "recipe_number"])
        holding.reconsider(table)


def step_through(table: Table, direction: int) -> str:
    """Undo (-1) or redo (+1) a change of the recipe; return what was done. Raises StepRefused at either end."""
    wanted = table.recipe_edits.filter(number=table.recipe_number + direction).first()
    if wanted is not None:
        holding.prepare_held(table, parse_recipe(wanted.recipe))
    with transaction.atomic():
        target = table.recipe_edits.filter(number=table.recipe_number + direction).first()
        if target is None:
            raise StepRefused("there is nothing to " + ("undo" if direction < 0 else "redo"), remedy="go on")
        undone = table.recipe_edits.get(number=max(target.number, table.recipe_number))
        table.recipe, table.recipe_number = target.recipe, target.number
        table.save(update_fields=["recipe", "recipe_number"])
        holding.reconsider(table)
    return f"{'Undone' if direction < 0 else 'Redone'}: {undone.said}"


def can_step(table: Table) -> tuple[bool, bool]:
    numbers = set(table.recipe_edits.values_list("number", flat=True))
    return table.recipe_number - 1 in numbers, table.recipe_number + 1 in numbers
