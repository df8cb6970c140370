"""The margin beside the page: a chosen tile's sentence, its looks, and the numbers behind it."""

from __future__ import annotations

import json
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from ypsil.core.answers.model import Answer
from ypsil.core.cloud import PLAIN_SHAPES, outline_of
from ypsil.core.drawing.frames import FRAMES, frame_outline
from ypsil.core.drawing.pictures import is_picture_name
from ypsil.core.drawing.scene import Scene
from ypsil.core.errors import DrawingRefused
from ypsil.core.fields import fields_of
from ypsil.core.figures import LOCALES, format_number, languages, locale_name, locale_of
from ypsil.core.questions.model import Question
from ypsil.core.questions.offered import Blank, Choice, choices, offers
from ypsil.core.questions.sentence import sentence_parts
from ypsil.core.report.document import ReportBody
from ypsil.core.report.suggest import tile_for
from ypsil.core.tables.profile import Profile
from ypsil.core.tiles import AnyTile, VisualTile, as_visual
from ypsil.core.visuals import VISUALS, checked_options, ranked, visual
from ypsil.core.visuals.shared.summary import group_name

# What words are shown as, the usual first.
_SHOWN_AS = {
    "counted": ("cloud", "bar", "word_line", "ranked_list", "lollipop", "percent_bar", "table"),
    "marking": ("marking_words",),
    "split": ("bar", "dot_plot", "heat_table", "compared_clouds", "cloud", "table"),
    "over time": ("line", "heat_table", "multiples", "column", "table"),
}
_OF_ANY_NAMES = ("cloud", "word_line")
_OF_WORDS = (*_OF_ANY_NAMES, "marking_words", "compared_clouds")
# A setting that is one of the pictures that its author brought.
OWN_PICTURE = "own picture"
GROUPS = ("Numbers", "Names", "Axes", "Marks", "Colours", "Notes")
# What authors change first: what it says of itself, what it is drawn of, what stands out, its colours.
_MATTER = (
    "label", "labels", "icon", "picture", "shape", "target", "targets", "emphasis", "good", "values_on_marks",
    "palette", "from_zero", "axis_name",
)  # fmt: skip
_STAND_OPEN = 3
_MOST_NAMES = 60
_OF_ONE_CHART = frozenset(
    {
        "label",
        "emphasis",
        "reference",
        "reference_name",
        "target",
        "total_name",
        "seed",
        "colours",
        "note_at",
        "note",
        "unit",
    }
    | {"band_from", "band_to", "band_name"}
)


@dataclass(frozen=True, slots=True)
class Item:
    """A line of a word's menu and the edit it makes, once its blanks are filled in."""

    label: str
    edit: str
    current: bool = False
    faint: bool = False
    reason: str = ""
    blanks: tuple[dict[str, str], ...] = ()


@dataclass(frozen=True, slots=True)
class Word:
    """A piece of the sentence: fixed text, or a word with a menu."""

    text: str
    items: list[Item]


@dataclass(frozen=True, slots=True)
class OptionField:
    name: str
    label: str
    help: str
    input: str
    value: Any
    said: str
    choices: list[tuple[str, str]]
    group: str
    may_be_empty: bool


@dataclass(frozen=True, slots=True)
class Topic:
    """Settings that change the same thing; ``changed`` is how many are not as they usually are."""

    name: str
    fields: list[OptionField]
    changed: int


@dataclass(frozen=True, slots=True)
class Look:
    """Another chart of the report that can be given this one's look: its tile, and the options it would have."""

    title: str
    tile: str
    options: str


def sentence_words(tile: VisualTile, profile: Profile, answer: Any) -> list[Word]:
    """Return the sentence of a tile in pieces; the last word is the visual."""
    words = [
        Word(part.text, items_of(tile, choices(tile.question, part.slot, profile)) if part.slot else [])
        for part in sentence_parts(tile.question)
    ]
    return [*words, Word(", as ", []), Word(visual(tile.visual).label.lower(), _visual_items(tile, answer))]


def offered_words(tile: VisualTile, profile: Profile) -> list[Word]:
    """Return the words that can be added to the sentence."""
    return [Word(offer.text, items_of(tile, list(offer.choices))) for offer in offers(tile.question, profile)]


def option_fields(tile: VisualTile, labels: Mapping[str, str]) -> list[OptionField]:
    """Return the fields of the visual's options, made from its model; ``labels`` are those of pictures by name."""
    entry = visual(tile.visual)
    try:
        present = checked_options(tile.visual, tile.options)
    except DrawingRefused:
        # The tile says what is wrong; its settings start anew.
        present = entry.options()
    return [
        _field(name, schema, getattr(present, name), labels)
        for name, schema in fields_of(entry.options).items()
        if not schema.get("hidden")
    ]


def tile_fields(tile: AnyTile, labels: Mapping[str, str]) -> tuple[list[OptionField], list[Topic]]:
    """Return the fields of a tile's own settings, made from the model of its kind: those that stand open, and the
    others by what they change; ``labels`` are those of pictures by name."""
    if not tile.settings:
        return [], []
    kind = type(tile)
    schemas = fields_of(kind)
    fields = {name: _field(name, schemas[name], getattr(tile, name), labels) for name in tile.settings}
    groups: dict[str, list[OptionField]] = {}
    for name, field in fields.items():
        groups.setdefault(kind.folded.get(name, ""), []).append(field)

    def changed(held: list[OptionField]) -> int:
        return sum(getattr(tile, field.name) != kind.model_fields[field.name].default for field in held)

    return groups.pop("", []), [Topic(group, held, changed(held)) for group, held in groups.items()]


def report_fields(body: ReportBody) -> list[tuple[str, str, str, list[tuple[str, str]]]]:
    """Return what is chosen for a whole report: the name of each field, its label, its value, and the choices."""
    written = [("", f"as usual: {format_number(1234.5, locale=locale_of(body.language))}")]
    written += [(code, f"{format_number(1234.5, locale=code)} {locale_name(code)}") for code in LOCALES]
    return [
        ("language", "Its language", body.language, list(languages().items())),
        ("locale", "Numbers are written", body.locale, written),
    ]


def _field(name: str, schema: dict[str, Any], present: Any, labels: Mapping[str, str]) -> OptionField:
    kinds = schema.get("anyOf", [schema])
    shown = next(kind for kind in kinds if kind.get("type") != "null")
    value = _as_typed(present)
    if (schema | shown).get("shows") == OWN_PICTURE:
        own = [("", "none"), *labels.items()]
        gone = [] if value in dict(own) else [(str(value), "a picture that is gone")]
        return OptionField(name, schema.get("title", name), "", "select", value, "", [*own, *gone], "Marks", False)
    return OptionField(
        name,
        schema.get("title", name),
        schema.get("description", ""),
        _input_type(schema | shown),
        value,
        labels.get(str(value), "a picture that is gone" if is_picture_name(str(value)) else str(value)),
        _choices(schema | shown),
        schema.get("group", "Marks"),
        len(kinds) > 1 or ("shows" in schema and not schema.get("default")),
    )


def first_fields(tile: VisualTile, labels: Mapping[str, str]) -> list[OptionField]:
    """Return the few settings that matter most of a visual: they stand open, the others are folded."""
    fields = option_fields(tile, labels)
    ranks = {name: rank for rank, name in enumerate(_MATTER)}
    first = sorted(fields, key=lambda field: ranks.get(field.name, len(ranks)))[:_STAND_OPEN]
    return [field for field in fields if field in first]


def topics(tile: VisualTile, labels: Mapping[str, str]) -> list[Topic]:
    """Return the other settings by what they change, in the order that charts are tuned in."""
    first = first_fields(tile, labels)
    fields = [field for field in option_fields(tile, labels) if field not in first]
    found = [(group, [field for field in fields if field.group == group]) for group in GROUPS]
    return [Topic(group, held, sum(field.name in tile.options for field in held)) for group, held in found if held]


def frames(sought: str) -> list[tuple[str, str, str]]:
    """Return the frames for pictures that are called as is sought, each with what it is called and its outline."""
    found = sought.lower()
    return [(name, label, frame_outline(name, 30, 20, 0)) for name, label in FRAMES.items() if found in label.lower()]


def plain_shapes(sought: str) -> list[tuple[str, str]]:
    """Return the shapes that are no icons and begin as is sought, each with its outline."""
    return [(name, outline_of(name, 30, 20)) for name in PLAIN_SHAPES if name.startswith(sought.lower())]


def names_in(answer: Answer) -> list[str]:
    """Return the names that can stand out: those of the series, or of the groups, the first of very many."""
    column = next(iter([*answer.of("split"), *answer.of("per")]), None)
    if column is None:
        return []
    members = answer.series(column).unique(maintain_order=True).head(_MOST_NAMES).to_list()
    return [group_name(member, column) for member in members]


def lost_note(tile: VisualTile, scene: Scene) -> str:
    """Return what is said where a note's mark is not drawn (any longer), or an empty string."""
    at = str(tile.options.get("note_at", ""))
    if not at or not tile.options.get("note") or any(mark.is_of(at) for mark in scene.marks()):
        return ""
    return f"The note about “{at}” is not shown: there is no such mark now."


def groups_in(answer: Answer) -> list[str]:
    """Return the names of the groups, which notes can stand at, the first of very many."""
    per = answer.of("per")[:1]
    if not per:
        return []
    members = answer.series(per[0]).unique(maintain_order=True).head(_MOST_NAMES).to_list()
    return [group_name(member, per[0]) for member in members]


def looks_for(tile: VisualTile, document: ReportBody) -> list[Look]:
    """Return the other charts that share settings with this one, each with the options that give it this look.

    What belongs to the data of one chart (its label, its target, who stands out) stays with it.
    """
    given = {name: value for name, value in tile.options.items() if name not in _OF_ONE_CHART}
    found = []
    for other in map(as_visual, document.tiles()):
        if other is None or other.id == tile.id:
            continue
        shared = _shared_settings(tile.visual, other.visual)
        own = {name: value for name, value in other.options.items() if name not in shared}
        options = own | {name: value for name, value in given.items() if name in shared}
        if shared and options != other.options and _can_have(other.visual, options):
            found.append(Look(other.title or visual(other.visual).label, other.id, json.dumps(options)))
    return found


def _shared_settings(one: str, other: str) -> set[str]:
    """Return the settings that mean the same in two visuals, without those that belong to one chart's data."""
    fields, others = visual(one).options.model_fields, visual(other).options.model_fields
    alike = {name for name in fields.keys() & others.keys() if fields[name].annotation == others[name].annotation}
    return alike - _OF_ONE_CHART


def _choices(schema: dict[str, Any]) -> list[tuple[str, str]]:
    """Return the values of a setting with a list of them, each with what stands for it on the screen."""
    values = [str(value) for value in schema.get("enum", [])]
    return list(zip(values, schema.get("labels", values), strict=True))


def _can_have(name: str, options: dict[str, Any]) -> bool:
    try:
        checked_options(name, options)
    except DrawingRefused:
        return False
    return True


def _as_typed(value: Any) -> Any:
    """Return a value as somebody would type it: 5000, not 5000.0; what stands below each other in lines."""
    if isinstance(value, tuple):
        return "\n".join(one.words for one in value)
    return int(value) if isinstance(value, float) and value.is_integer() else value


def _input_type(schema: dict[str, Any]) -> str:
    if "enum" in schema:
        return "select"
    if schema.get("shows"):
        return str(schema["shows"])
    return {"boolean": "checkbox", "integer": "integer", "number": "number"}.get(schema.get("type", ""), "text")


def items_of(tile: VisualTile, found: list[Choice]) -> list[Item]:
    """Return choices as lines of a menu, each with the edit it makes."""
    return [
        Item(
            choice.label,
            _edit(tile, choice.question),
            choice.current,
            blanks=tuple(_blank(blank) for blank in choice.blanks),
        )
        for choice in found
    ]


def _blank(blank: Blank) -> dict[str, str]:
    path = json.dumps(["changes", "question", *blank.path])
    return {"label": blank.label, "kind": blank.kind, "value": blank.value, "path": path}


def _edit(tile: VisualTile, question: Question) -> str:
    """Return the edit that gives a tile another question; a title that said the old one follows."""
    changes: dict[str, Any] = {"question": question.model_dump(mode="json", exclude_defaults=True)}
    name = _visual_for(tile, question)
    if name != tile.visual:
        changes |= {"visual": name, "options": {}}
    usual, new = tile_for(tile.table, tile.question, tile.visual), tile_for(tile.table, question, name)
    if tile.title == usual.title and new.title != tile.title:
        changes["title"] = new.title
    if tile.options.get("label") == usual.options.get("label") and new.options != usual.options:
        changes["options"] = ({} if name != tile.visual else tile.options) | new.options
    return json.dumps({"type": "change_tile", "tile": tile.id, "changes": changes})


def _visual_for(tile: VisualTile, question: Question) -> str:
    """Return the visual that a changed question is shown as: the same, unless it asks something else of words."""
    form, name = _form_of(question), tile.visual
    if form == _form_of(tile.question):
        return name
    if form == "names":
        if name not in _OF_WORDS or (name in _OF_ANY_NAMES and question.per):
            return name
        return "column" if question.per else "kpi"
    usual = _SHOWN_AS[form]
    return name if name in usual and form != "marking" else usual[0]


def _form_of(question: Question) -> str:
    """Return what a question asks of words; of anything else, that it does not."""
    if not question.words:
        return "names"
    if question.split is None:
        return "counted"
    if question.order is not None and question.order.by == "keyness":
        return "marking"
    return "over time" if question.split.grain else "split"


def _visual_items(tile: VisualTile, answer: Any) -> list[Item]:
    """Return every visual, the fittest first with the reason, those that do not fit last and faint."""
    every = ranked(answer) if answer is not None else [(entry, None) for entry in VISUALS.values()]
    items = []
    for entry, found in every:
        fitting = tile_for(tile.table, tile.question, entry.name)
        title = tile.title or fitting.title if entry.is_titled else ""
        changes = {"visual": entry.name, "options": fitting.options, "title": title}
        edit = json.dumps({"type": "change_tile", "tile": tile.id, "changes": changes})
        faint = found is not None and not found.fits
        items.append(Item(entry.label, edit, entry.name == tile.visual, faint, found.reason if found else ""))
    return items


def all_options_json(tile: VisualTile) -> str:
    return json.dumps(tile.options)
