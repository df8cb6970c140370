"""What is wrong with a drawing, found from its shapes alone: texts over each other or beyond it, too many digits."""

import re
from itertools import combinations

from ypsil.core.drawing import text_width

# Letters have air around them: boxes may touch by so much before letters do.
_AIR_X, _AIR_Y = 1.0, 0.34
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
