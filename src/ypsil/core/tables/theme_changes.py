"""Changes of a recipe's themes, one by one: pure, each with the words that say what was done."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from ypsil.core.tables.recipe import Recipe, parse_recipe
from ypsil.core.tables.steps import StepRefused
from ypsil.core.tables.steps.texts import FindThemes
from ypsil.core.text.themes import LONGEST_NAME, LONGEST_TERM, MOST_TERMS, Decision, Theme
from ypsil.core.text.tokens import tokenise

CODED = "Coded answers by hand in"


def change_themes(recipe: Recipe, change: dict[str, Any]) -> tuple[Recipe, str]:
    """Return the recipe after a change of themes, and what the change was in words.

    ``change`` names the step by the column it makes (``of``) and has a ``do``: put (theme, terms), take (theme,
    term), rename (theme, name), drop (theme), decide (key, theme, carries, found), read (key), unread (key). ``put``
    may name a ``column`` of written answers instead; it then goes into the step for that column, or a new one.
    Raises StepRefused for what cannot be understood.

    >>> made, said = change_themes(Recipe(), {"do": "put", "column": "Comment", "theme": "Staff", "terms": ["staff"]})
    >>> made.steps[0].into, said
    ('Themes in Comment', 'Put “staff” into the theme “Staff”')
    """
    do = _CHANGES.get(str(change.get("do")))
    if do is None:
        raise StepRefused("nothing says what to change", remedy="load the page again")
    place, step = _step(recipe, change)
    made, said = do(step, change)
    steps: list[Any] = [one.model_dump(mode="json") for one in recipe.steps]
    steps[place : place + 1] = [made.model_dump(mode="json")]
    return parse_recipe({**recipe.model_dump(mode="json"), "steps": steps}), said


def theme_steps(recipe: Recipe) -> list[tuple[int, FindThemes]]:
    """Return the steps that find themes, with their places."""
    return [(place, step) for place, step in enumerate(recipe.steps) if isinstance(step, FindThemes)]


def _step(recipe: Recipe, change: dict[str, Any]) -> tuple[int, FindThemes]:
    """Return the step that is meant and its place; the end of the recipe for a new one."""
    found = theme_steps(recipe)
    of, column = change.get("of"), change.get("column")
    for place, step in reversed(found):
        if step.into == of or (of is None and step.column == column):
            return place, step
    if change.get("do") != "put" or not isinstance(column, str):
        raise StepRefused("there are no such themes any more", remedy="load the page again")
    language = change.get("language")
    forms = bool(change.get("forms", True))
    into = f"Themes in {column}"[:200]
    return len(recipe.steps), FindThemes(column=column, into=into, forms=forms, language=language)


def _named(step: FindThemes, change: dict[str, Any]) -> Theme:
    found = next((theme for theme in step.themes if theme.name == change.get("theme")), None)
    if found is None:
        raise StepRefused("there is no such theme any more", remedy="load the page again")
    return found


def _with_theme(step: FindThemes, old: Theme, new: Theme) -> FindThemes:
    return step.model_copy(update={"themes": tuple(new if theme == old else theme for theme in step.themes)})


def _name(step: FindThemes, name: Any) -> str:
    """Return the name of a theme, trimmed; one that differs by capitals only is that which is there."""
    given = " ".join(str(name or "").split())
    if not given:
        raise StepRefused("the theme has no name", remedy="name it by what its words are about")
    if len(given) > LONGEST_NAME:
        raise StepRefused("the theme's name is too long for a chart", remedy="name it in a few words")
    if given.casefold() == step.without.casefold():
        raise StepRefused(f"answers without a theme are called “{step.without}”", remedy="name the theme otherwise")
    return next((theme.name for theme in step.themes if theme.name.casefold() == given.casefold()), given)


def _put(step: FindThemes, change: dict[str, Any]) -> tuple[FindThemes, str]:
    terms = [" ".join(str(term).split()) for term in change.get("terms") or ()]
    wordless = [term for term in terms if not tokenise(term)]
    if wordless:
        raise StepRefused(f"“{wordless[0]}” holds no word", remedy="put words or phrases into themes")
    longest = max((len(term) for term in terms), default=0)
    if longest > LONGEST_TERM:
        raise StepRefused(f"a word or phrase of a theme has at most {LONGEST_TERM} letters", remedy="shorten it")
    name = _name(step, change.get("theme"))
    old = next((theme for theme in step.themes if theme.name == name), None)
    said = " and ".join(f"“{term}”" for term in terms[:2]) + (f" and {len(terms) - 2} more" if len(terms) > 2 else "")
    if old is None:
        themes = (*step.themes, Theme(name=name, terms=tuple(dict.fromkeys(terms))))
        step = step.model_copy(update={"themes": themes})
    else:
        together = tuple(dict.fromkeys([*old.terms, *terms]))
        if len(together) > MOST_TERMS:
            raise StepRefused(f"a theme holds at most {MOST_TERMS} words", remedy="make another theme")
        step = _with_theme(step, old, old.model_copy(update={"terms": together}))
    return step, f"Put {said} into the theme “{name}”" if terms else f"Made the theme “{name}”"


def _take(step: FindThemes, change: dict[str, Any]) -> tuple[FindThemes, str]:
    theme, term = _named(step, change), change.get("term")
    left = theme.model_copy(update={"terms": tuple(one for one in theme.terms if one != term)})
    return _with_theme(step, theme, left), f"Took “{term}” out of the theme “{theme.name}”"


def _rename(step: FindThemes, change: dict[str, Any]) -> tuple[FindThemes, str]:
    """Rename a theme, also in decisions; under the name of another, the two become one."""
    theme = _named(step, change)
    typed = " ".join(str(change.get("name") or "").split())
    name = typed if typed.casefold() == theme.name.casefold() else _name(step, typed)
    other = next((one for one in step.themes if one.name == name and one != theme), None)

    def renamed(names: tuple[str, ...]) -> tuple[str, ...]:
        return tuple(dict.fromkeys(name if one == theme.name else one for one in names))

    decisions = {
        key: Decision(carries=renamed(one.carries), lacks=renamed(one.lacks)) for key, one in step.decisions.items()
    }
    step = step.model_copy(update={"decisions": decisions})
    if other is None:
        return _with_theme(step, theme, theme.model_copy(update={"name": name})), f"“{theme.name}” is now “{name}”"
    both = other.model_copy(update={"terms": tuple(dict.fromkeys([*other.terms, *theme.terms]))[:MOST_TERMS]})
    step = step.model_copy(update={"themes": tuple(one for one in step.themes if one != theme)})
    return _with_theme(step, other, both), f"“{theme.name}” became part of “{name}”"


def _drop(step: FindThemes, change: dict[str, Any]) -> tuple[FindThemes, str]:
    theme = _named(step, change)
    decisions = {}
    for key, one in step.decisions.items():
        carries, lacks = (tuple(name for name in names if name != theme.name) for names in (one.carries, one.lacks))
        decisions[key] = Decision(carries=carries, lacks=lacks)
    themes = tuple(one for one in step.themes if one != theme)
    return step.model_copy(update={"themes": themes, "decisions": decisions}), f"Removed the theme “{theme.name}”"


def _key(change: dict[str, Any]) -> str:
    key = change.get("key")
    if not isinstance(key, str) or not key.isalnum() or len(key) > 64:
        raise StepRefused("nothing says which answer is meant", remedy="load the page again")
    return key


def _decide(step: FindThemes, change: dict[str, Any]) -> tuple[FindThemes, str]:
    """Say that an answer carries a theme or lacks it; ``found`` tells whether its words say so already."""
    key, theme = _key(change), _named(step, change)
    carries, found = bool(change.get("carries")), bool(change.get("found"))
    old = step.decisions.get(key, Decision())
    sides = {
        side: tuple(name for name in getattr(old, side) if name != theme.name)
        + ((theme.name,) if carries != found and carries == (side == "carries") else ())
        for side in ("carries", "lacks")
    }
    return _decided(step, key, Decision(**sides))


def _read(step: FindThemes, change: dict[str, Any]) -> tuple[FindThemes, str]:
    key = _key(change)
    return _decided(step, key, step.decisions.get(key, Decision()))


def _unread(step: FindThemes, change: dict[str, Any]) -> tuple[FindThemes, str]:
    return _decided(step, _key(change), None)


def _decided(step: FindThemes, key: str, decision: Decision | None) -> tuple[FindThemes, str]:
    decisions = {one: given for one, given in step.decisions.items() if one != key}
    if decision is not None:
        decisions[key] = decision
    return step.model_copy(update={"decisions": decisions}), f"{CODED} “{step.into}”"


_CHANGES: dict[str, Callable[[FindThemes, dict[str, Any]], tuple[FindThemes, str]]] = {
    "put": _put,
    "take": _take,
    "rename": _rename,
    "drop": _drop,
    "decide": _decide,
    "read": _read,
    "unread": _unread,
}
