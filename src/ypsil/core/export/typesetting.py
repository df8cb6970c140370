"""Placing scenes on a typst page. 1 px is 0.75 pt."""

from __future__ import annotations

import json
import re
from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from dataclasses import dataclass, field, replace
from functools import cache
from itertools import zip_longest
from typing import Literal

import typst

from ypsil.core.drawing.faces import FONT_FOLDER, JOINERS, SANS, can_set, names
from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.scene import Font, Scene, Text
from ypsil.core.drawing.svg import number, scene_to_svg
from ypsil.core.errors import YpsilError

POINTS_PER_PX = 0.75
# The paper of a picture that lets all through that lies behind it.
CLEAR = ""
_JOINED_PX = 0.5
_PLAIN = Font(SANS, 12)
_HAIRLINE = "stroke: 0.25pt"
_CONTROL = re.compile(r"[\x00-\x1f\x7f-\x9f\ud800-\udfff]")
_NO_GLYPH = "\ufffd"
# Lines of a heading are set without height of their own, so that each baseline falls where the scene has it.
_PREAMBLE = """
#set par(leading: 0pt, spacing: 0pt)
#set block(spacing: 0pt)
#show heading: it => it.body
#let drawing(x, y, width, height, name, alt) = place(dx: x, dy: y,
  image(bytes(sys.inputs.at(name)), format: "svg", width: width, height: height, alt: alt))
#let turned(x, y, angle, width, height, body) = place(dx: x, dy: y, rotate(angle, origin: top + left,
  box(width: 0pt, height: 0pt, place(dx: -x, dy: -y, box(width: width, height: height, body)))))
#let scaled(x, y, by, width, height, body) = place(dx: x, dy: y, scale(x: by, y: by, origin: top + left,
  box(width: width, height: height, body)))
#let stretched(x, y, width, height, name) = pdf.artifact(place(dx: x, dy: y,
  image(bytes(sys.inputs.at(name)), format: "svg", width: width, height: height, fit: "stretch")))
#let ornament(x, y, width, height, name) = pdf.artifact(place(dx: x, dy: y,
  image(bytes(sys.inputs.at(name)), format: "svg", width: width, height: height)))
#let cells(x, y, count, header, ..rows) = place(dx: x, dy: y,
  table(columns: (0pt,) * count, rows: 0pt, inset: 0pt, stroke: none, table.header(..header), ..rows))
#let line(x, y, size, weight, family, fill, content, width: auto, slope: "normal") = place(dx: x, dy: y,
  text(size: size, weight: weight, style: slope, font: family, fill: rgb(fill), top-edge: "baseline",
    bottom-edge: "baseline", box(width: width, content)))
"""


@dataclass(slots=True)
class TypstPage:
    """Collects what stands on a page, and on those that follow it, then compiles them."""

    width: float
    height: float
    title: str
    language: str = "en"
    paper: str = "#ffffff"
    _body: list[str] = field(default_factory=list)
    _inputs: dict[str, str] = field(default_factory=dict)
    _page_set: str = ""

    def turn(self, height: float) -> None:
        """Start the next page, as wide as the first and ``height`` px high."""
        self._body.append(f"#pagebreak()\n#set page(height: {_pt(height)})")

    @contextmanager
    def turned(self, x: float, y: float, degrees: float) -> Iterator[None]:
        """Turn all that is added meanwhile about a point, as the hands of a clock go."""
        first = len(self._body)
        yield
        if degrees:
            within = "\n".join(self._body[first:])
            size = f"{_pt(self.width)}, {_pt(self.height)}"
            self._body[first:] = [f"#turned({_pt(x)}, {_pt(y)}, {number(degrees)}deg, {size})[{within}]"]

    @contextmanager
    def scaled(self, x: float, y: float, by: float) -> Iterator[None]:
        """Set all that is added meanwhile ``by`` times as large, from a corner at ``x`` and ``y``."""
        first = len(self._body)
        yield
        within = "\n".join(self._body[first:])
        if within and (x or y or by != 1):
            size = f"{_pt(self.width / by)}, {_pt(self.height / by)}"
            self._body[first:] = [f"#scaled({_pt(x)}, {_pt(y)}, {100 * by:.4f}%, {size})[{within}]"]

    def run_along(self, title: str, font: Font, fill: str, edge: float) -> None:
        """Say the title again above all pages but the first, and number all below; ``edge`` px from the edges."""
        size, place = _pt(font.size), _pt(edge)
        look = f"size: {size}, font: {_families(font.family)}, fill: rgb({_string(fill)})"
        self._page_set += (
            f"background: context {{ if counter(page).get().first() > 1 {{ place(top + left, dx: {place}, dy: {place}, "
            f"text({look}, {_string(title)})) }}\n place(bottom + right, dx: -{place}, dy: -{place}, "
            f'text({look}, counter(page).display("1 / 1", both: true))) }}, '
        )

    def mark_corners(self, around: float, gap: float, length: float) -> None:
        """Draw on each page the lines by which it is cut, ``around`` px from its edges, ``gap`` px from the corners."""
        marks = []
        for side in ("left", "right"):
            for edge in ("top", "bottom"):
                out, down = (1 if side == "left" else -1), (1 if edge == "top" else -1)
                ends = around - gap - length
                across = (
                    f"dx: {_pt(out * ends)}, dy: {_pt(down * around)}, std.line(length: {_pt(length)}, {_HAIRLINE})"
                )
                upright = f"dx: {_pt(out * around)}, dy: {_pt(down * ends)}, "
                upright += f"std.line(length: {_pt(length)}, angle: 90deg, {_HAIRLINE})"
                marks += [f"place({side} + {edge}, {mark})" for mark in (across, upright)]
        self._page_set += f"foreground: {{ {chr(10).join(marks)} }}, "

    def flow(self, width: float, height: float, margin: float, font: Font, fill: str) -> None:
        """Go on with pages that fill by themselves, in one type."""
        size = f"width: {_pt(width)}, height: {_pt(height)}, margin: {_pt(margin)}"
        look = f"size: {_pt(font.size)}, font: {_families(font.family)}, fill: rgb({_string(fill)})"
        self._body.append(
            f"#pagebreak()\n#set page({size})\n#set text({look})\n#set par(leading: 0.5em, spacing: 0.9em)\n"
            "#show heading: it => block(above: 1.6em, below: 0.8em, text(size: 1.15em, weight: 700, it.body))"
        )

    def add_rows(
        self,
        title: str,
        headings: Sequence[str],
        rows: Sequence[Sequence[str]],
        are_numbers: Sequence[bool],
        said: str,
        rule: str,
    ) -> None:
        """Set a table under a heading on pages that fill by themselves; its own headings stand on each of them."""
        aligned = "".join("right, " if is_number else "left, " for is_number in are_numbers)
        head = ", ".join(f"text(weight: 700, {_string(_plain(text))})" for text in headings)
        cells = ", ".join(_string(_plain(cell)) for row in rows for cell in row)
        self._body.append(
            f"#heading(level: 2)[#{_string(_plain(title))}]\n#table(columns: {len(headings)}, align: ({aligned}), "
            f"stroke: (x: none, y: 0.5pt + rgb({_string(rule)})), inset: (x: 6pt, y: 4pt), "
            f"table.header({head}), {cells})"
        )
        if said:
            self._body.append(f"#block[#{_string(said)}]")

    def add_stretched(self, scene: Scene, x: float, y: float, width: float, height: float) -> None:
        """Place a scene that says nothing, as wide and as high as is said."""
        name = self._named(scene, 1.0)
        self._inputs[name] = self._inputs[name].replace("<svg ", '<svg preserveAspectRatio="none" ', 1)
        self._body.append(f"#stretched({_pt(x)}, {_pt(y)}, {_pt(width)}, {_pt(height)}, {_string(name)})")

    def add_drawing(self, scene: Scene, x: float, y: float, opacity: float = 1.0) -> None:
        """Place a scene as a vector picture with its description as alternative text."""
        shapes = tuple(_settable(shape) if isinstance(shape, Text) else shape for shape in scene.shapes)
        scene = replace(scene, shapes=shapes)
        if any(text.cell for text in scene.texts()):
            self._add_table(scene, x, y, opacity)
            return
        name = self._named(scene, opacity)
        alt = f"{scene.name}. {scene.description}" if scene.name else scene.description
        self._body.append(
            f"#drawing({_pt(x)}, {_pt(y)}, {_pt(scene.width)}, {_pt(scene.height)}, {_string(name)}, {_string(alt)})"
        )

    def add_ornament(self, scene: Scene, x: float, y: float, opacity: float = 1.0) -> None:
        """Place a scene that says nothing: whoever reads the page out passes over it."""
        size = f"{_pt(scene.width)}, {_pt(scene.height)}"
        self._body.append(f"#ornament({_pt(x)}, {_pt(y)}, {size}, {_string(self._named(scene, opacity))})")

    def _named(self, scene: Scene, opacity: float) -> str:
        name = f"drawing{len(self._inputs)}"
        self._inputs[name] = scene_to_svg(scene, opacity=opacity)
        return name

    def _add_table(self, scene: Scene, x: float, y: float, opacity: float) -> None:
        """Set a table as one (ISO 32000-2, 14.8.4.8.3): its words in cells where the scene has them, its headings in
        header cells; rules and shades are ornaments. What stands below the table follows as a paragraph."""
        lines = tuple(shape for shape in scene.shapes if not isinstance(shape, Text))
        self.add_ornament(replace(scene, shapes=lines), x, y, opacity)
        cells: dict[tuple[int, int], str] = {}
        scene = replace(scene, shapes=tuple(_seen_through(text, opacity) for text in scene.texts()))
        for text in scene.texts():
            if text.cell:
                cells[text.cell] = cells.get(text.cell, "") + _line(text, 0, 0, width=scene.width)
        columns = range(max(column for _, column in cells) + 1)
        rows = [[f"[{cells.get((row, column), '')}]" for column in columns] for row in range(max(cells)[0] + 1)]
        body = ", ".join(cell for row in rows[1:] for cell in row)
        head = f"({', '.join(rows[0])},)"
        self._body.append(f"#cells({_pt(x)}, {_pt(y)}, {len(columns)}, {head}, {body})")
        beside = "".join(_line(text, x, y, width=2 * scene.width) for text in scene.texts() if not text.cell)
        if beside:
            self._body.append(f"#block[{beside}]")

    def add_link(self, address: str, x: float, y: float, width: float, height: float) -> None:
        """Lay a place that leads to an address over what was set there."""
        size = f"width: {_pt(width)}, height: {_pt(height)}"
        self._body.append(f"#place(dx: {_pt(x)}, dy: {_pt(y)}, link({_string(address)}, box({size})))")

    def add_leap(self, page: int, down: float, x: float, y: float, width: float, height: float) -> None:
        """Lay a place that leads to a height (px) on a page, counted from 1, over what was set there."""
        size = f"width: {_pt(width)}, height: {_pt(height)}"
        to = f"(page: {page}, x: 0pt, y: {_pt(down)})"
        self._body.append(f"#place(dx: {_pt(x)}, dy: {_pt(y)}, link({to}, box({size})))")

    def add_text(self, scene: Scene, x: float, y: float, level: int = 0, opacity: float = 1.0) -> None:
        """Set the lines of a text scene as text, as a heading of ``level`` or (0) as a paragraph."""
        rules = tuple(shape for shape in scene.shapes if not isinstance(shape, Text))
        if rules:
            self.add_ornament(replace(scene, shapes=rules), x, y, opacity)
        texts = [_seen_through(_settable(text), opacity) for text in scene.texts()]
        lines = "".join(
            _line(text, x, y, end="" if _goes_on(text, following) else " ")
            for text, following in zip_longest(texts, texts[1:])
        )
        if lines:
            self._body.append(f"#heading(level: {level})[{lines}]" if level else f"#block[{lines}]")

    def compile(self, target: Literal["pdf", "png"], *, ppi: float = 192.0) -> bytes:
        """Return the file; a PDF is tagged and conforms to PDF/UA-1, which refuses a picture without text."""
        source = (
            f"#set document(title: {_string(self.title)}, date: none)\n#set text(lang: {_string(self.language)})\n"
            f"#set page(width: {_pt(self.width)}, height: {_pt(self.height)}, margin: 0pt, {self._page_set}"
            f"fill: {f'rgb({_string(self.paper)})' if self.paper != CLEAR else 'none'})\n"
            + _PREAMBLE
            + "\n".join(self._body)
        ).encode()
        try:
            return self._compiled(source, target, ppi)
        except typst.TypstError as problem:
            raise YpsilError(
                "the file cannot be typeset", where=str(problem).splitlines()[0], remedy="change that and try again"
            ) from None

    def _compiled(self, source: bytes, target: Literal["pdf", "png"], ppi: float) -> bytes:
        if target == "pdf":
            standards: list[Literal["ua-1"]] = ["ua-1"]
            return typst.compile(
                source, font_paths=_fonts(), format="pdf", sys_inputs=self._inputs, pdf_standards=list(standards)
            )
        return typst.compile(source, font_paths=_fonts(), format="png", sys_inputs=self._inputs, ppi=ppi)


def scene_page(scene: Scene, language: str) -> TypstPage:
    """Return a page that holds one drawing."""
    page = TypstPage(scene.width, scene.height, scene.name or "Drawing", language)
    page.add_drawing(scene, 0, 0)
    return page


@cache
def _fonts() -> typst.Fonts:
    """The shipped faces, read once."""
    return typst.Fonts(font_paths=[str(FONT_FOLDER)], include_system_fonts=False)


def _families(family: str) -> str:
    return "(" + "".join(f"{_string(name)}," for name in names(family)) + ")"


def _plain(text: str) -> str:
    """Return text without characters that no shipped face has: PDF/UA-1 allows none without a glyph."""
    return _settable(Text(0, 0, text, _PLAIN, "#000000")).text


def _pt(px: float) -> str:
    return f"{number(px * POINTS_PER_PX)}pt"


def _settable(text: Text) -> Text:
    """Return the text with a sign in place of characters that no shipped face has, such as emoji.

    PDF/UA-1 allows no character without a glyph. The alternative text keeps the characters themselves.
    """
    if text.text.isascii():
        return text
    letters = []
    for character in text.text:
        if can_set(character, text.font.family, text.font.weight, text.font.is_italic):
            letters.append(character)
        elif character not in JOINERS:
            letters.append(_NO_GLYPH)
    return replace(text, text="".join(letters))


def _seen_through(text: Text, opacity: float) -> Text:
    """Return a text in a colour that lets through what lies behind it."""
    return text if opacity == 1 else replace(text, fill=f"{text.fill}{round(opacity * 255):02x}")


def _string(text: str) -> str:
    """Return a typst string literal; without control characters, its escapes are those of JSON."""
    return json.dumps(_CONTROL.sub(" ", text), ensure_ascii=False)


def _goes_on(text: Text, following: Text | None) -> bool:
    """Tell whether the next text begins where one ends, in another look: then no space stands between them."""
    if following is None or abs(following.y - text.y) > text.font.size:
        return False
    ends = (text.x + text_width(text.text, text.font), text.x - text_width(following.text, following.font))
    return any(abs(following.x - end) < _JOINED_PX for end in ends)


def _line(text: Text, x: float, y: float, width: float | None = None, end: str = " ") -> str:
    """Return a line of text; a cell of a table has no width of its own, so there it is given."""
    family = _families(text.font.family)
    left = text.x - {"start": 0.0, "middle": 0.5, "end": 1.0}[text.anchor] * text_width(text.text, text.font)
    # A space after each line keeps words apart for those who read the text out or copy it.
    said = _string(text.text + end)
    # Bands of the page itself are no places that a file knows.
    leads = text.link and not text.link.startswith("#")
    content = f"link({_string(text.link)}, {said})" if leads else said
    slope = ', slope: "italic"' if text.font.is_italic else ""
    return (
        f"#line({_pt(x + left)}, {_pt(y + text.y)}, {_pt(text.font.size)}, {text.font.weight}, {family}, "
        f"{_string(text.fill)}, {content}{f', width: {_pt(width)}' if width else ''}{slope})"
    )
