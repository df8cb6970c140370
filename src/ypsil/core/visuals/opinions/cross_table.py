"""Cross-table: shares of answers by groups, with the differences that are more than chance, and the test."""

from __future__ import annotations

from dataclasses import replace

from ypsil.core.answers.model import Answer
from ypsil.core.drawing.colour import mix, readable_on
from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.scene import Font, Line, Path, Rect, Scene, Shape, Text
from ypsil.core.drawing.wrap import shorten, wrap
from ypsil.core.figures import DEFAULT_LOCALE, format_number
from ypsil.core.style.house import HouseStyle
from ypsil.core.survey.crosstab import ChiSquare
from ypsil.core.visuals.base import Box, Needs, Visual, rule
from ypsil.core.visuals.shared.axes import LABEL_PX, full_name
from ypsil.core.visuals.shared.cross_counts import ALL, CrossTableOptions, Made, made_of
from ypsil.core.visuals.shared.grid import Grid, grid_of
from ypsil.core.visuals.shared.marks import mark_title
from ypsil.core.visuals.shared.rooms import message_scene
from ypsil.core.visuals.shared.summary import told

_ROW_PX = (15.0, 30.0)
_PAD_PX = 8.0
_MOST_OF_NAMES, _LEAST_OF_NAMES = 0.42, 0.24
_ARROW_PX = 7.0


def draw(answer: Answer, options: CrossTableOptions, box: Box, style: HouseStyle) -> Scene:
    """Draw a row a group and a column an answer, the number of people at the end, all groups together at the foot."""
    grid = grid_of(answer)
    made = made_of(answer, grid, options)
    if made is None:
        return message_scene("All groups are too small to be shown.", box, style, answer.sentence)
    foot_font = style.body(LABEL_PX - 1)
    said = _test_words(made, options)
    foot = wrap(said, box.width, foot_font, most=4) if said else []
    room = box.height - len(foot) * foot_font.line_height - (6 if foot else 0)
    widths = _widths(grid, made, box, style)
    head = _head(grid, widths, style)
    head_height = max(len(lines) for lines, _, _ in head) * style.body(LABEL_PX).line_height + 6
    fitting = max(1, int((room - head_height) // _ROW_PX[0]) - 1)
    shown = len(grid.names) if len(grid.names) <= fitting else max(1, fitting - 1)
    lines = shown + 1 + (shown < len(grid.names))
    tall = max(_ROW_PX[0], min(_ROW_PX[1], (room - head_height) / lines))
    shapes = _heading(head, head_height, _head_font(grid, widths, style), style)
    for row in range(shown):
        shapes += _row(grid, made, row, head_height + row * tall, tall, widths, options, style)
    y = head_height + shown * tall
    font = style.body(min(LABEL_PX, tall * 0.62))
    if shown < len(grid.names):
        more = f"and {format_number(len(grid.names) - shown, locale=options.in_locale)} more"
        shapes.append(Text(0, y + tall * 0.68, more, font, style.muted))
        y += tall
    shapes += _total_row(made, shown + 1, y, tall, widths, style, options.in_locale)
    for place, line in enumerate(reversed(foot)):
        shapes.append(Text(0, box.height - 4 - place * foot_font.line_height, line, foot_font, style.muted))
    shares = f"{len(grid.names)} groups by {len(grid.series)} answers, percentages of the {made.of}"
    description = " ".join(
        part
        for part in (
            told(replace(answer, base=round(made.everybody)), "Cross-table", shares),
            _signs_words(grid, made),
            said,
        )
        if part
    )
    return Scene(box.width, box.height, tuple(shapes), answer.sentence, description)


def _widths(grid: Grid, made: Made, box: Box, style: HouseStyle) -> list[float]:
    """Return the widths of the names, of each answer, and of the numbers of people."""
    font, bold = style.body(LABEL_PX), style.body(LABEL_PX, bold=True)
    names = max(text_width(name, font) for name in (*grid.names, ALL)) + 2 * _PAD_PX
    bases = [format_number(base, locale=grid.column.locale) for base in (*made.people, made.everybody)]
    people = max(text_width(base, font) for base in bases)
    last = max(people, text_width("n", bold)) + _PAD_PX
    # Names give way where the words of the headings need the room.
    words = max(text_width(word, bold) for one in grid.series for word in one.name.split() or [""]) + 1.5 * _PAD_PX
    left = box.width - last - words * len(grid.series)
    first = min(names, _MOST_OF_NAMES * box.width, max(left, _LEAST_OF_NAMES * box.width))
    each = (box.width - first - last) / len(grid.series)
    return [first, *(each for _ in grid.series), last]


def _head(grid: Grid, widths: list[float], style: HouseStyle) -> list[tuple[list[str], float, str]]:
    """Return the lines of each heading with the end of its column, and all of it where the lines are cut."""
    bold = _head_font(grid, widths, style)
    found = []
    end = widths[0]
    for one, width in zip(grid.series, widths[1:-1], strict=True):
        end += width
        lines = wrap(one.name, width - _PAD_PX, bold, most=3)
        found.append((lines, end - _PAD_PX / 2, full_name(one.name, lines)))
    return [*found, (["n"], end + widths[-1], "")]


def _head_font(grid: Grid, widths: list[float], style: HouseStyle) -> Font:
    """Return the letters of the headings: smaller ones where a word would be broken."""
    for size in (LABEL_PX, 12.0, 11.0, 10.0):
        font = style.body(size, bold=True)
        if all(text_width(word, font) <= widths[1] - _PAD_PX for one in grid.series for word in one.name.split()):
            break
    return font


def _heading(head: list[tuple[list[str], float, str]], height: float, bold: Font, style: HouseStyle) -> list[Shape]:
    shapes: list[Shape] = []
    for column, (lines, end, whole) in enumerate(head, 1):
        top = height - 6 - len(lines) * bold.line_height
        for place, line in enumerate(lines):
            baseline = top + (place + 0.8) * bold.line_height
            shapes.append(
                Text(end, baseline, shorten(line, end, bold), bold, style.ink, "end", whole, cell=(0, column))
            )
    shapes.append(Line(0, height, head[-1][1], height, style.ink, 1.25))
    return shapes


def _row(
    grid: Grid, made: Made, row: int, y: float, tall: float, widths: list[float], options: CrossTableOptions,
    style: HouseStyle,
) -> list[Shape]:  # fmt: skip
    font = style.body(min(LABEL_PX, tall * 0.62))
    baseline = y + tall / 2 + font.size * 0.35
    name = shorten(grid.names[row], widths[0] - _PAD_PX, font)
    shapes: list[Shape] = [
        Text(
            0,
            baseline,
            name,
            font,
            style.ink,
            title=grid.names[row] if name != grid.names[row] else "",
            cell=(row + 1, 0),
        )
    ]
    place = made.places.get(row)
    end = widths[0]
    for column, width in enumerate(widths[1:-1]):
        end += width
        if place is None:
            shapes.append(Text(end - _PAD_PX / 2, baseline, "–", font, style.muted, "end", cell=(row + 1, column + 1)))
            continue
        share, text = made.table.shares[place][column], made.texts[place][column]
        sign = made.table.signs[place][column] if options.signs else 0
        title = mark_title(grid.names[row], text, _SIGN_WORDS[sign], series=grid.series[column].name)
        pale = mix(style.paper, style.accent, 0.36 * min(1.0, share or 0.0)) if options.shades else style.paper
        shapes.append(Rect(end - width + 2, y + 1, width - 2, tall - 2, pale, 2, title))
        ink = readable_on(pale, style.ink, style.paper)
        shapes.append(Text(end - _PAD_PX / 2, baseline, text, font, ink, "end", cell=(row + 1, column + 1)))
        if sign:
            left = end - _PAD_PX / 2 - text_width(text, font) - _ARROW_PX - 4
            shapes.append(_arrow(left, baseline - font.size * 0.7, sign, style))
    people = "–" if place is None else format_number(made.people[place], locale=options.in_locale)
    shapes.append(Text(end + widths[-1], baseline, people, font, style.muted, "end", cell=(row + 1, len(widths) - 1)))
    return shapes


_SIGN_WORDS = {1: "more often than all", -1: "less often than all", 0: ""}


def _arrow(x: float, y: float, sign: int, style: HouseStyle) -> Path:
    """Return a small triangle: upwards in the accent, downwards in the palette's second colour."""
    top, foot = (y, y + _ARROW_PX) if sign > 0 else (y + _ARROW_PX, y)
    colour = style.accent if sign > 0 else style.colour(1)
    return Path(f"M0 {foot - y:.2f}L{_ARROW_PX} {foot - y:.2f}L{_ARROW_PX / 2} {top - y:.2f}Z", fill=colour, x=x, y=y)


def _total_row(
    made: Made, row: int, y: float, tall: float, widths: list[float], style: HouseStyle, locale: str
) -> list[Shape]:
    font = style.body(min(LABEL_PX, tall * 0.62), bold=True)
    baseline = y + tall / 2 + font.size * 0.35
    shapes: list[Shape] = [
        Line(0, y, sum(widths), y, style.ink, 1),
        Text(0, baseline, made.foot, font, style.ink, cell=(row, 0)),
    ]
    end = widths[0]
    for column, (text, width) in enumerate(zip(made.totals, widths[1:-1], strict=True), 1):
        end += width
        shapes.append(Text(end - _PAD_PX / 2, baseline, text, font, style.ink, "end", cell=(row, column)))
    total = format_number(made.everybody, locale=locale)
    shapes.append(Text(end + widths[-1], baseline, total, font, style.ink, "end", cell=(row, len(widths) - 1)))
    return shapes


def _signs_words(grid: Grid, made: Made) -> str:
    """Say which groups differ, as readers who do not see the arrows need it."""
    found = []
    for row, place in made.places.items():
        for column, sign in enumerate(made.table.signs[place]):
            names = grid.names[row], grid.series[column].name
            group, said = names[::-1] if made.groups_across else names
            found += [f"{group} says “{said}” {_SIGN_WORDS[sign]}"] if sign else []
    return f"More than chance: {'; '.join(found[:6])}." if found else "No single difference stands out beyond chance."


def _test_words(made: Made, options: CrossTableOptions) -> str:
    test = made.table.test
    if not options.test:
        return ""
    if made.gave_several:
        return "Several answers could be given, so there is no chi-square test."
    return test_sentence(test, options.in_locale) if test else ""


def test_sentence(test: ChiSquare, locale: str = DEFAULT_LOCALE) -> str:
    """Return a chi-square test in words, with a warning where small expected counts make it doubtful."""
    found = "The groups answer differently" if test.probability < 0.05 else "The differences may be chance"
    p = "p < 0.001" if test.probability < 0.001 else f"p = {format_number(test.probability, decimals=3, locale=locale)}"
    statistic = format_number(test.statistic, decimals=1, locale=locale)
    degrees = "1 degree" if test.freedom == 1 else f"{test.freedom} degrees"
    said = f"{found} (chi-square {statistic}, {degrees} of freedom, {p})."
    return said + (" Some expected counts are below 5, so this is doubtful." if test.is_doubtful else "")


VISUAL = Visual(
    name="cross_table",
    label="Cross-table",
    purposes=("what people answered", "share of a whole", "what goes together"),
    purpose="shares of answers by groups, with the differences that are more than chance",
    needs=Needs(split="needed", groups=(1, 60), series=(2, 12), people=True, negative=False),
    options=CrossTableOptions,
    draw=draw,
    advice=(
        rule(0.15, "periods are many rows", time=True),
        rule(0.55, "{series} answers by {groups} groups, in exact numbers", groups=(2, 20)),
        rule(0.3, "answers by groups, in exact numbers"),
    ),
    default_size=(14, 40),
)
