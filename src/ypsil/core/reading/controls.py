"""What readers choose by, as a form that works without scripts: its controls stand wherever their tiles do."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from ypsil.core.choosing import MOST_LISTED, Choice, Choices, Offered
from ypsil.core.drawing.scene import Scene
from ypsil.core.drawing.svg import escaped, scene_to_svg
from ypsil.core.figures import format_number, format_period
from ypsil.core.render import Page, TileView
from ypsil.core.tiles.chosen_rows import bars_of, rows_said
from ypsil.core.visuals import Box

FORM = '<form id="filters" method="get"></form>\n'
_OF_FORM = ' form="filters"'
_LAST = (1, 3, 6, 12, 24)
_SEEK_FROM = 12
_BARS_HIGH = 40.0
_ROWS = '<p class="rows" lang="en">'
_SHOW = f'<button{_OF_FORM} class="apply" lang="en">Show</button>'


def has_control(markup: str) -> bool:
    """Tell whether something of a page holds a control of the form.

    >>> has_control('<input form="filters" name="branch">'), has_control("<p>form=filters</p>")
    (True, False)
    """
    return _OF_FORM in markup


def stilled(markup: str) -> str:
    """Return something of a page with its controls as they stand, for nobody to press."""
    return markup.replace(_OF_FORM, " disabled")


def with_refused(markup: str, problems: Mapping[str, Sequence[str]]) -> str:
    """Return something of a page with what could not be chosen said at its controls; ``problems`` are sentences by the
    ids of controls. One that does not stand there says nothing.

    Such words are as many as there are addresses; the page that they stand in is one, and can be kept without them.
    """
    for control, said in problems.items():
        begins = markup.find(f' id="{_named(control)}"')
        place = markup.find(_ROWS, begins) if begins >= 0 else -1
        if place >= 0:
            refused = "".join(f'<p class="refused" lang="en">{escaped(one)}</p>' for one in said)
            markup = markup[:place] + refused + markup[place:]
    return markup


def _named(control: str) -> str:
    return f"named-{control}"


def has_controls(page: Page) -> bool:
    """Tell whether readers of a page choose anything."""
    return bool(page.context.choices.offered)


def control_of(view: TileView) -> str:
    """Return the control of a tile; nothing for one at which nothing can be chosen."""
    tile, choices = view.tile, view.context.choices
    offered = choices.offered.get(tile.id)
    if offered is None:
        return ""
    key, choice = choices.keys[tile.id], choices.of(tile.id)
    named = _named(tile.id)
    pressed = {"values": _values, "amount": _amount, "period": _period}[offered.way](offered, choice, key, named, view)
    left = escaped(rows_said(offered, view.context))
    return (
        f'<div class="choose by-{offered.way}" data-key="{escaped(key)}" role="group" aria-labelledby="{named}">'
        f'<div class="head"><p class="named" id="{named}" title="{escaped(offered.name)}">{escaped(offered.name)}</p>'
        f"{_cleared(choices, tile.id)}</div>{pressed}"
        f"{_ROWS}<span>{left}</span>{_again(choices)}</p>"
        "</div>"
    )


def _cleared(choices: Choices, control: str) -> str:
    """Return the link that takes the choice at a control back, where one is made."""
    is_made = choices.of(control).is_made
    return f'<a href="?{escaped(choices.query(control))}" lang="en">Clear</a>' if is_made else ""


def _again(choices: Choices) -> str:
    """Return the link that takes all choices back, where there are several."""
    return ' <a href="?">Show all</a>' if len(choices.made) > 1 else ""


def _values(offered: Offered, choice: Choice, key: str, named: str, view: TileView) -> str:
    more = len(offered.values) - MOST_LISTED
    shown = offered.values[:MOST_LISTED] if more > 0 else offered.values
    listed = list(dict.fromkeys([*choice.values, *shown])) if more > 0 else list(shown)
    name = escaped(key)
    typed = ""
    if more > 0:
        said = format_number(more, locale=view.context.locale)
        typed = f'<label class="typed" lang="en">or one of {said} more <input{_OF_FORM} name="{name}" value=""></label>'
    if offered.control.takes == "one" and not typed:
        options = "".join(
            f'<option value="{escaped(value)}"{" selected" if value in choice.values else ""}>{escaped(value)}</option>'
            for value in listed
        )
        return (
            f'<div class="pressed"><select{_OF_FORM} name="{name}" aria-labelledby="{named}">'
            f'<option value="">All</option>{options}</select>{_SHOW}</div>'
        )
    kind = "radio" if offered.control.takes == "one" else "checkbox"
    boxes = "".join(
        f'<label><input type="{kind}"{_OF_FORM} name="{name}" value="{escaped(value)}"'
        f"{' checked' if value in choice.values else ''}> {escaped(value)}</label>"
        for value in listed
    )
    now = escaped(", ".join(choice.values) or "All")
    called = escaped(offered.name)
    seek = f'<input type="search" class="seek" aria-label="Find: {called}" placeholder="Find" hidden>'
    return (
        f'<details class="pressed"><summary><span class="visually-hidden">{called}: </span>'
        f'<span class="now">{now}</span></summary><div class="offered">'
        f"{seek if len(listed) > _SEEK_FROM else ''}"
        f'<div class="list" role="group" aria-label="{called}" tabindex="0">{boxes}</div>{typed}{_SHOW}</div></details>'
    )


def _amount(offered: Offered, choice: Choice, key: str, named: str, view: TileView) -> str:
    ends = offered.ends or (0.0, 0.0)
    called = escaped(offered.name)

    def end(part: str, present: str, least: float) -> str:
        hint = escaped(format_number(least, locale=view.context.locale))
        return (
            f'<input{_OF_FORM} inputmode="decimal" name="{escaped(key)}-{part}" value="{escaped(present)}" '
            f'placeholder="{hint}" aria-label="{called}, {part}" autocomplete="off">'
        )

    unit = f" <span>{escaped(offered.column.unit)}</span>" if offered.column.unit not in (None, "%") else ""
    return (
        f'<div class="pressed">{end("from", choice.low, ends[0])}<span lang="en">to</span>'
        f"{end('to', choice.high, ends[1])}{unit}{_SHOW}</div>"
    )


def _period(offered: Offered, choice: Choice, key: str, named: str, view: TileView) -> str:
    called, name, locale = escaped(offered.name), escaped(key), view.context.locale
    several = [last for last in _LAST if last < len(offered.periods)]
    lasts = "".join(
        f'<option value="{last}"{" selected" if choice.last == last else ""}>'
        f"{escaped(offered.words(Choice(last=last), locale)[0])}</option>"
        for last in sorted({*several, *([choice.last] if choice.last else [])})
    )
    starts = offered.starts()
    other = "From – to" if choice.low or choice.high else f"All {offered.grain}s"

    def end(part: str, present: str, empty: str) -> str:
        options = "".join(
            f'<option value="{value}"{" selected" if value == present else ""}>'
            f"{escaped(format_period(start, offered.grain, locale=locale))}</option>"
            for value, start in starts.items()
        )
        return (
            f'<select{_OF_FORM} name="{name}-{part}" aria-label="{called}, {part}"><option value="">{empty}</option>'
            f"{options}</select>"
        )

    return (
        f'{_bars(offered, view)}<div class="pressed" lang="en"><select{_OF_FORM} name="{name}-last" '
        f'aria-label="{called}, the last"><option value="">{other}</option>{lasts}</select></div>'
        f'<div class="pressed" lang="en">{end("from", choice.low, "from")}{end("to", choice.high, "to")}{_SHOW}</div>'
    )


def _bars(offered: Offered, view: TileView) -> str:
    box = Box(max(1.0, view.scene.width), _BARS_HIGH)
    bars = bars_of(offered, box, view.context)
    if not bars:
        return ""
    scene = Scene(
        box.width, box.height, bars, f"{offered.name}: rows per {offered.grain}", "How much there is of each."
    )
    return f'<div class="bars">{scene_to_svg(scene, label_id=f"bars-{view.tile.id}")}</div>'


def choosing_marks(view: TileView) -> Offered | None:
    """Return the control that readers choose at by pressing marks of a tile; None where they choose nothing there."""
    table_name, name = view.tile.offers_marks()
    table = view.context.tables.get(table_name)
    column = next((one for one in table.columns if one.name == name), None) if table else None
    return None if column is None else view.context.choices.control_for(column)


def choosing_links(view: TileView, offered: Offered) -> dict[str, str]:
    """Return for the values of a control, as drawings call them, the address that chooses each, or no longer does."""
    choices, name = view.context.choices, offered.control.id
    if offered.way != "values":
        return {}
    made = choices.of(name).values
    found = {}
    for value in offered.values[:MOST_LISTED]:
        others = tuple(one for one in made if one != value)
        kept = (*others, value) if offered.control.takes == "several" else (value,)
        ordered = tuple(one for one in offered.values if one in kept) if value not in made else others
        found[value] = choices.query(name, Choice(values=ordered))
    return found
