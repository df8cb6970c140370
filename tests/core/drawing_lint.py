"""What is wrong with a drawing, found from its shapes: texts over each other, under lines or beyond it, too many
digits, names left out without a word, one label for unequal values."""

import re
from collections import Counter
from itertools import combinations

from ypsil.core.drawing import Line, Rect, text_width
from ypsil.core.style import HouseStyle
from ypsil.core.visuals.shared.summary import group_name

# Letters have air around them: boxes may touch by so much before letters do.
_AIR_X, _AIR_Y = 1.0, 0.34
_GRID = HouseStyle().grid
_LEFT_OUT = re.compile(r"(have|has) no room here|not drawn for want|\d others\b|\d more\b")
_LABEL = re.compile(r"([−-])?(\d[\d,]*(?:\.\d+)?)([KMBT%]?)")
_NUMBER = re.compile(r"(?<![\w])[−-]?\d[\d.,\u00a0\u202f' ]*\d|\d")


def box_of(text):
    """Return left, top, right and bottom of a line of text."""
    width = text_width(text.text, text.font)
    left = {"start": text.x, "middle": text.x - width / 2, "end": text.x - width}[text.anchor]
    return left, text.y - 0.75 * text.font.size, left + width, text.y + 0.2 * text.font.size


def over_each_other(scene):
    """Return the pairs of level texts whose letters run into each other."""
    boxes = [(text, box_of(text)) for text in scene.texts() if text.text.strip() and not text.angle]
    found = []
    for (one, a), (other, b) in combinations(boxes, 2):
        across = min(a[2], b[2]) - max(a[0], b[0])
        down = min(a[3], b[3]) - max(a[1], b[1])
        if across > _AIR_X and down > _AIR_Y * min(one.font.size, other.font.size):
            found.append(f"“{one.text}” over “{other.text}”")
    return found


def beyond(scene):
    """Return the level texts that leave the drawing."""
    found = []
    for text in scene.texts():
        left, top, right, bottom = box_of(text)
        if not text.angle and (left < -2 or right > scene.width + 2 or top < -2 or bottom > scene.height + 2):
            found.append(f"“{text.text}” beyond the drawing")
    return found


def long_numbers(scene):
    """Return the labels that hold a number of more than seven digits."""
    found = []
    for text in scene.texts():
        for number in _NUMBER.findall(text.text):
            if sum(one.isdigit() for one in number) > 7:
                found.append(f"“{text.text}” has more than seven digits")
    return found


def lines_through_texts(scene):
    """Return the level texts that a level or upright line runs through, unless a sheet lies between the two.

    The light lines of a grid may run behind a name in the plane.
    """
    found = []
    strong = (one for one in enumerate(scene.shapes) if isinstance(one[1], Line) and one[1].stroke != _GRID)
    lines = list(strong)
    for text in (one for one in scene.texts() if one.text.strip() and not one.angle):
        left, top, right, bottom = box_of(text)
        left, top, right, bottom = left + 1, top + 0.1 * text.font.size, right - 1, bottom - 0.25 * text.font.size
        for place, line in lines:
            x1, x2, y1, y2 = *sorted((line.x1, line.x2)), *sorted((line.y1, line.y2))
            if (x1 == x2 or y1 == y2) and x1 < right and x2 > left and y1 < bottom and y2 > top:
                middle = (max(x1, left) + min(x2, right)) / 2, (max(y1, top) + min(y2, bottom)) / 2
                if not any(_covers(shape, middle) for shape in scene.shapes[place + 1 :]):
                    found.append(f"a line through “{text.text}”")
    return found


def _covers(shape, at):
    is_sheet = isinstance(shape, Rect) and shape.opacity == 1
    return is_sheet and shape.x <= at[0] <= shape.x + shape.width and shape.y <= at[1] <= shape.y + shape.height


def names_left_out(scene, answer):
    """Return the groups that no text names, where the drawing does not say that some have no name."""
    said = " ".join(f"{text.text} {text.title}" for text in scene.texts())
    if answer.each_row or _LEFT_OUT.search(said):
        return []
    columns = [
        column
        for column in answer.columns
        if column.role in ("per", "split") and column.kind == "category" and not column.edges and not column.grain
    ]
    names = dict.fromkeys(group_name(value, column) for column in columns for value in answer.values(column))
    return [f"“{name}” is named nowhere" for name in names if name.strip() and name not in said]


def equal_labels(scene, answer):
    """Return the numbers that stand at more marks than there are equal values that they can mean."""
    values = Counter(
        value
        for column in answer.of("measure")
        for value in answer.values(column)
        if isinstance(value, int | float) and not isinstance(value, bool)
    )
    labels = Counter(text.text for text in scene.texts() if text.font.weight == 700)
    found = []
    for label, count in labels.items():
        meant = [times for value, times in values.items() if _can_mean(label, value)]
        if len(meant) > 1 and count > max(meant):
            found.append(f"“{label}” stands {count} times for {len(meant)} unequal values")
    return found


def _can_mean(label, value):
    """Tell whether a label is this value, rounded."""
    parts = _LABEL.fullmatch(label)
    if not parts:
        return False
    sign, digits, sign_behind = parts.groups()
    factor = {"K": 1e3, "M": 1e6, "B": 1e9, "T": 1e12, "%": 0.01}.get(sign_behind, 1)
    number = float(digits.replace(",", "")) * factor * (-1 if sign else 1)
    step = factor * 10.0 ** -len(digits.partition(".")[2])
    return abs(value - number) <= 0.5 * step * (1 + 1e-9)
