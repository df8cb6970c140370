"""Every visual on grounds of every kind: each text of it can be read on what lies under it, measured on pixels."""

import io
from dataclasses import replace

import numpy as np
import pytest
from PIL import Image

from tests.core.test_visuals import GOOD, TABLES
from tests.factories import VISITS, ask, csv_table
from ypsil.core.drawing.colour import contrast_ratio
from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.scene import Rect, Text
from ypsil.core.export import scene_to_file
from ypsil.core.style import HouseStyle
from ypsil.core.style.grounds import on, tone
from ypsil.core.visuals import VISUALS, Box, draw

STYLE, BOX = HouseStyle(), Box(600, 360)
# Dark, of middling lightness (where neither black nor white stands out much), and pale.
GROUNDS = ("ink", "accent", "third-tint", "#7f7f7f", "#b0a060")
# Large text is 18 pt, or 14 pt bold (WCAG 2.2, "large scale"); it needs 3:1 and other text 4.5:1 (1.4.3).
LARGE_PX, LARGE_BOLD_PX, BOLD = 24, 18.66, 700
# Pixels are rounded to whole numbers.
ROUNDED = 0.05


@pytest.mark.parametrize("name", VISUALS)
def test_every_text_of_a_visual_stands_out_from_what_lies_under_it(name):
    found = ask(GOOD[name], csv_table(TABLES.get(name, VISITS)))
    for named in GROUNDS:
        ground = tone(STYLE, named)
        scene = draw(name, found, {}, BOX, on(STYLE, ground))
        under = (
            Rect(0, 0, scene.width, scene.height, ground),
            *(one for one in scene.shapes if not isinstance(one, Text)),
        )
        with Image.open(io.BytesIO(scene_to_file(replace(scene, shapes=under), "png"))) as opened:
            scale = opened.width / scene.width
            pixels = np.asarray(opened.convert("RGB"))
        for text in scene.texts():
            behind = _behind(text, pixels, scale)
            if behind:
                ratio = contrast_ratio(text.fill[:7], behind)
                assert ratio >= _needed(text) - ROUNDED, (named, text.text, text.fill, behind, ratio)


def _behind(text, pixels, scale):
    """The colour that most of a text stands on; nothing for one that is blank or turned."""
    if not text.text.strip() or text.angle:
        return ""
    width = text_width(text.text, text.font)
    left = text.x - {"start": 0, "middle": 0.5, "end": 1}[text.anchor] * width
    rows = slice(max(0, int((text.y - 0.6 * text.font.size) * scale)), max(1, int(text.y * scale)))
    columns = slice(max(0, int(left * scale)), max(1, int((left + width) * scale)))
    part = pixels[rows, columns].reshape(-1, 3)
    return "#{:02x}{:02x}{:02x}".format(*np.median(part, axis=0).astype(int)) if len(part) else ""


def _needed(text):
    is_bold = text.font.weight >= BOLD
    return 3 if text.font.size >= (LARGE_BOLD_PX if is_bold else LARGE_PX) else 4.5
