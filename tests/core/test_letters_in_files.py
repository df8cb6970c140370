"""The letters that a file carries: packed as the standard says, and the same as those that were measured."""

import base64
import io
import re

import pytest
from fontTools.pens.boundsPen import BoundsPen
from fontTools.pens.recordingPen import DecomposingRecordingPen
from fontTools.ttLib import TTFont
from pypdf import PdfReader

from ypsil.core.drawing.faces import FAMILIES, HUMANIST, LEGIBLE, face_path
from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.scene import Font, Scene, Text
from ypsil.core.export.fonts import font_styles
from ypsil.core.export.typesetting import scene_page
from ypsil.core.export.woff import woff


def carried(text, family, weight=400):
    """Return the faces in the styles of a drawing of one text, as fontTools reads them (an outside check)."""
    scene = Scene(100, 20, (Text(0, 10, text, Font(family, 12, weight), "#000000"),), name="", description="")
    found = re.findall(r"url\(data:font/woff;base64,([^)]*)\)", font_styles([scene]))
    return [TTFont(io.BytesIO(base64.b64decode(one)), checkChecksums=2) for one in found]


@pytest.mark.parametrize("family", FAMILIES)
@pytest.mark.parametrize("weight", [400, 700])
def test_a_face_in_a_file_has_the_letters_that_are_used_as_wide_as_they_were_measured(family, weight):
    text = "Visits 1,204 Åé"
    (face,) = carried(text, family, weight)
    assert set(map(ord, text)) <= set(face.getBestCmap())
    assert len(face.getGlyphOrder()) < 60, "and few others"
    whole = TTFont(face_path(family, weight))
    for letter in text:
        wide = face["hmtx"][face.getBestCmap()[ord(letter)]][0]
        assert wide == whole["hmtx"][whole.getBestCmap()[ord(letter)]][0]
    alone = sum(face["hmtx"][face.getBestCmap()[ord(one)]][0] for one in "1204") / face["head"].unitsPerEm * 12
    # Some faces bring a 1 nearer to what follows it.
    assert text_width("1204", Font(family, 12, weight)) == pytest.approx(alone, rel=0.01)


def test_letters_that_a_face_lacks_come_from_another():
    first, second = carried("Alder שלום", HUMANIST)
    assert {len(set(map(ord, "Alder ")) & set(one.getBestCmap())) for one in (first, second)} == {6, 0}


def test_a_packed_face_unpacks_to_the_same_tables():
    # W3C WOFF File Format 1.0, read by fontTools.
    path = face_path(HUMANIST, 400)
    packed = TTFont(io.BytesIO(woff(path.read_bytes())), checkChecksums=2)
    assert packed.flavor == "woff"
    plain = TTFont(path)
    assert packed.reader.keys() == plain.reader.keys()
    assert all(packed.reader[tag] == plain.reader[tag] for tag in sorted(plain.reader.keys()))


def test_there_are_families_of_all_sorts():
    said = " ".join(FAMILIES.values())
    assert len(FAMILIES) >= 17
    for sort in ("grotesque", "geometric", "slab", "display", "rounded", "handwriting", "typewriter"):
        assert sort in said


@pytest.mark.parametrize("family", [one for one in FAMILIES if one != LEGIBLE])
@pytest.mark.parametrize("weight", [400, 700])
def test_a_zero_has_no_stroke_and_figures_stand_on_one_line(family, weight):
    """As fontTools reads the faces: a zero is two outlines, and no figure reaches below the others."""
    found = TTFont(face_path(family, weight))
    glyphs = found.getGlyphSet()
    drawn, feet = DecomposingRecordingPen(glyphs), []
    glyphs[found.getBestCmap()[ord("0")]].draw(drawn)
    assert sum(name == "moveTo" for name, _ in drawn.value) == 2
    for figure in "0123456789":
        bounds = BoundsPen(glyphs)
        glyphs[found.getBestCmap()[ord(figure)]].draw(bounds)
        feet.append(bounds.bounds[1])
    assert max(feet) - min(feet) < 0.05 * found["head"].unitsPerEm


@pytest.mark.parametrize("family", FAMILIES)
def test_a_drawing_is_set_in_its_own_face_in_every_file(family):
    # A name such as Source Sans 3 is read as one only where it is quoted (W3C, CSS Fonts Module Level 4, 2.1.1).
    shown = "Visits 1,204 Hamburgefonstiv"
    scene = Scene(400, 40, (Text(0, 20, shown, Font(family, 12, 400), "#000000"),), name="Visits", description="Visits")
    reader = PdfReader(io.BytesIO(scene_page(scene, "en").compile("pdf")))
    resources = reader.pages[0]["/Resources"]
    fonts = list(_fonts_in(resources))
    assert fonts and all(family.replace(" ", "") in name for name in fonts), fonts


def _fonts_in(resources):
    for one in resources.get("/Font", {}).values():
        yield one.get_object()["/BaseFont"]
    for one in resources.get("/XObject", {}).values():
        yield from _fonts_in(one.get_object().get("/Resources", {}))
