"""A page as slides: a slide for each band, or for each page where the page is made of slides."""

from __future__ import annotations

import io
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field, replace
from typing import Any

from pptx import Presentation
from pptx.opc.constants import RELATIONSHIP_TYPE as RT
from pptx.oxml import parse_xml
from pptx.oxml.ns import qn
from pptx.util import Emu

from ypsil.core.document.model import PageFormat
from ypsil.core.document.page_formats import PAGE_FORMATS, name_of
from ypsil.core.drawing.scene import Path, Scene
from ypsil.core.drawing.svg import allowed, escaped
from ypsil.core.errors import YpsilError
from ypsil.core.export.pictures import tile_picture
from ypsil.core.export.slides.charts import add_chart
from ypsil.core.export.slides.colours import colour_xml
from ypsil.core.export.slides.drawn import Ids, can_draw, shapes_of
from ypsil.core.export.slides.space import EMU_PER_PX, Space
from ypsil.core.export.slides.theme import in_style
from ypsil.core.export.slides.words import line_box, paragraphs_xml, text_shape
from ypsil.core.export.steady import steady
from ypsil.core.export.typesetting import CLEAR, TypstPage
from ypsil.core.render import BandView, Page, TileView
from ypsil.core.render.backing import Backing
from ypsil.core.tiles import Written
from ypsil.core.tiles.context import Charted
from ypsil.core.tiles.leading import band_of
from ypsil.core.visuals import Box

# A slide of 16 to 9, 13⅓ by 7½ inches, in px.
_WIDE_PX, _HIGH_PX = 1280.0, 720.0
_LARGEST = 2.0
_TITLE_ONLY = 5
_SCREENS = ("Slides", "Dashboard", "Post")
_SPACES = (
    'xmlns:p="http://schemas.openxmlformats.org/presentationml/2006/main" '
    'xmlns:a="http://schemas.openxmlformats.org/drawingml/2006/main" '
    'xmlns:r="http://schemas.openxmlformats.org/officeDocument/2006/relationships"'
)
# What readers of a screen reader pass over.
_DECORATIVE = (
    '<a:extLst><a:ext uri="{C183D7F6-B498-43B3-948B-1728B52AA6E4}">'
    '<adec:decorative xmlns:adec="http://schemas.microsoft.com/office/drawing/2017/decorative" val="1"/>'
    "</a:ext></a:extLst>"
)
_SLACK = 1.02
# Pixels to a px of the slide.
_SHARP = 2.0
_MOST_NAME = 120


def page_to_pptx(page: Page) -> bytes:
    """Return a page as slides in the ECMA-376 format. The same page gives the same bytes.

    Raises YpsilError for a report without anything in it.
    """
    if not page.tiles():
        raise YpsilError("the report is empty", where=page.report.title, remedy="add something to it first")
    deck = Presentation()
    width, height = _size(page.report.page)
    deck.slide_width, deck.slide_height = Emu(round(width * EMU_PER_PX)), Emu(round(height * EMU_PER_PX))
    in_style(deck, page.report.style)
    core = deck.core_properties
    core.title, core.language = allowed(page.report.title)[:255], page.report.language
    core.author = core.last_modified_by = core.keywords = core.comments = core.subject = ""
    layout = deck.slide_layouts[_TITLE_ONLY]
    plans = list(_plans(page, width, height))
    slides = {plan: deck.slides.add_slide(layout) for plan in range(len(plans))}
    goals = {band.band.id: slides[number] for number, plan in enumerate(plans) for band in plan.bands}
    for number, plan in enumerate(plans):
        _Sheet(page, plan, slides[number], goals, (deck.slide_width, deck.slide_height)).fill()
    buffer = io.BytesIO()
    deck.save(buffer)
    return steady(buffer.getvalue())


@dataclass(frozen=True, slots=True)
class _Plan:
    """What stands on one slide, and where a px of the page lies on it."""

    bands: tuple[BandView, ...]
    space: Space


def _size(page: PageFormat) -> tuple[float, float]:
    """Return the size of a slide in px: that of the page where it is a screen."""
    return (page.width, page.height) if _is_screen(page) and page.height else (_WIDE_PX, _HIGH_PX)


def _is_screen(page: PageFormat) -> bool:
    """Tell whether each page is seen as a whole, as slides and dashboards are: then it is laid out as a slide."""
    named = PAGE_FORMATS.get(name_of(page))
    return named is not None and named.group in _SCREENS and page.height is not None


def _plans(page: Page, width: float, height: float) -> Iterator[_Plan]:
    if _is_screen(page.report.page):
        for place in page.layout.pages:
            bands = tuple(band for band in page.bands if place.y <= band.place.y < place.foot and band.tiles)
            if bands:
                yield _Plan(bands, Space(1.0, 0.0, -place.y))
        return
    for band in page.bands:
        if not band.tiles:
            continue
        high = max(1.0, band.place.height)
        scale = min(width / page.width, height / high, _LARGEST)
        left, top = (width - scale * page.width) / 2, (height - scale * high) / 2
        yield _Plan((band,), Space(scale, left, top - scale * band.place.y))


@dataclass(slots=True)
class _Sheet:
    """One slide that is being filled."""

    page: Page
    plan: _Plan
    slide: Any
    goals: dict[str, Any]
    size: tuple[int, int]
    ids: Ids = field(default_factory=Ids)
    has_title: bool = False

    def fill(self) -> None:
        title = self.slide.shapes.title
        title._element.getparent().remove(title._element)
        alone = self.plan.bands[0] if len(self.plan.bands) == 1 else None
        self._background(alone)
        for band in self.plan.bands:
            if band.ground is not None and (alone is None or band.band.is_inset):
                self._ground(band.ground)
        within = {view.tile.id for band in self.plan.bands for view in band.tiles}
        for view in self.page.painted():
            if view.tile.id in within:
                self._tile(view)
        if not self.has_title:
            self._hidden_title()
        said = "\n\n".join(_notes(self.plan.bands))
        if said:
            self.slide.notes_slide.notes_text_frame.text = allowed(said)

    def _background(self, alone: BandView | None) -> None:
        """Let the ground of a band that has a slide for itself go on to its edges."""
        colour = self.page.report.style.paper
        ground = alone.ground if alone is not None and not alone.band.is_inset else None
        if ground is not None:
            first = ground.scene.shapes[0]
            if isinstance(first, Path) and first.motif is None and len(ground.scene.shapes) == 1:
                colour = first.fill
            else:
                wide, high = (size / EMU_PER_PX for size in self.size)
                scene, png = ground.scene, self._covering(ground.scene, wide, high)
                self._add_picture(png, "Ground", "", Space(), replace(scene, width=wide, height=high))
        self.slide.background.fill.solid()
        fill = self.slide.background._cSld.find(".//" + qn("a:solidFill"))
        fill.getparent().replace(fill, self._parsed(f"<a:solidFill>{colour_xml(colour)}</a:solidFill>"))

    def _ground(self, ground: Backing) -> None:
        space = self.plan.space.at(ground.x, ground.y)
        if can_draw(ground.scene):
            self._add_group("Ground", "", shapes_of(ground.scene, space, self.ids, self._leads), space, ground.scene)
            return
        png = _ornament(ground.scene, _SHARP * space.scale)
        self._add_picture(png, "Ground", "", space, ground.scene)

    def _covering(self, scene: Scene, wide: float, high: float) -> bytes:
        """Return a ground as large as it must be to cover a slide, and cut to that."""
        by = max(wide / scene.width, high / scene.height)
        left, top = (wide - by * scene.width) / 2, (high - by * scene.height) / 2
        shapes = tuple(shape.moved(left, top) for shape in scene.zoomed(by).shapes)
        return _ornament(replace(scene, width=wide, height=high, shapes=shapes), _SHARP)

    def _tile(self, view: TileView) -> None:
        space = self.plan.space.at(view.x, view.y)
        behind = self._behind(view)
        charted = None if view.turn or view.opacity != 1 else view.tile.charted(view.drawn, view.context)
        written = _written_of(view)
        if view.turn:
            self._turned(view, behind, space)
            return
        if behind:
            self._add_group("Card", "", behind, self.plan.space, view.scene)
        if charted is not None:
            self._chart(view, charted, space)
        elif written is not None:
            self._words(view, space)
        else:
            self._drawing(view, space)

    def _behind(self, view: TileView) -> list[str]:
        """Return what stands behind a tile: its card, and the strip at its head with the words on it."""
        found: list[str] = []
        if view.card is not None:
            at = self.plan.space.at(view.card.x, view.card.y)
            found += shapes_of(view.card.scene, at, self.ids, self._leads, view.opacity)
        if view.header is not None:
            at = self.plan.space.at(view.header.x, view.header.y)
            found += shapes_of(view.header.strip(), at, self.ids, self._leads, view.opacity)
            found += shapes_of(view.header.scene, at, self.ids, self._leads, view.opacity)
        return found

    def _turned(self, view: TileView, behind: list[str], space: Space) -> None:
        if _written_of(view) is not None:
            inside = [self._text(view, space, is_title=False)]
        elif can_draw(view.scene):
            inside = shapes_of(view.scene, space, self.ids, self._leads, view.opacity)
        else:
            self._let_lead(self._tile_picture(view, space), view)
            return
        x, y = view.middle
        corner = self.plan.space.at(x - view.scene.width / 2, y - view.scene.height / 2)
        self._add_group(
            _label(view), _said(view), [*behind, *inside], corner, view.scene, turn=view.turn, leads=view.tile.leads()
        )

    def _chart(self, view: TileView, charted: Charted, space: Space) -> None:
        style, zoom = view.context.style, view.context.page.zoom
        if charted.heading:
            self._append(line_box(list(charted.heading), space, self.ids.next(), self._leads))
        at = (0.0, charted.top, view.scene.width, max(1.0, charted.foot - charted.top))
        frame = add_chart(self.slide.shapes, charted.chart, space, at, style, zoom)
        named = frame._element.nvGraphicFramePr.cNvPr
        named.set("id", str(self.ids.next()))
        named.set("name", _label(view))
        named.set("descr", _said(view))
        self._let_lead(named, view)
        lines = [*charted.notes, *(text for text in view.scene.texts() if text.y > view.scene.height and text.text)]
        if charted.notes:
            self._append(line_box(list(charted.notes), space, self.ids.next(), self._leads))
        for text in lines[len(charted.notes) :]:
            self._append(line_box([text], space, self.ids.next(), self._leads))

    def _words(self, view: TileView, space: Space) -> None:
        if not view.scene.shapes:
            return
        is_title = not self.has_title and bool(view.tile.heading())
        self.has_title = self.has_title or is_title
        self._append(self._text(view, space, is_title=is_title))

    def _text(self, view: TileView, space: Space, *, is_title: bool) -> str:
        written = view.tile.writes(view.context)
        assert written is not None
        box = Box(view.scene.width, view.scene.height)
        manner, paragraphs = written.paragraphs(box, view.context)
        said = paragraphs_xml(manner, paragraphs, space, self._leads, view.opacity)
        wide = view.scene.width * (_SLACK if manner.align == "start" else 1.0)
        place = space.frame(0, 0, wide, view.scene.height)
        gap = (manner.columns, space.emu(1.6 * manner.font.size))
        name = escaped(_label(view))
        return text_shape(
            self.ids.next(), name, place, said, title=is_title, columns=gap, click=self._click(view.tile.leads())
        )

    def _drawing(self, view: TileView, space: Space) -> None:
        if not view.scene.shapes:
            return
        if can_draw(view.scene):
            made = shapes_of(view.scene, space, self.ids, self._leads, view.opacity)
            self._add_group(_label(view), _said(view), made, space, view.scene, leads=view.tile.leads())
            return
        self._let_lead(self._tile_picture(view, space), view)

    def _tile_picture(self, view: TileView, space: Space) -> Any:
        png = tile_picture(self.page, view, scale=_SHARP * self.plan.space.scale, is_clear=True)
        return self._add_picture(png, _label(view), _said(view), space, view.scene, turn=view.turn)

    def _let_lead(self, named: Any, view: TileView) -> None:
        """Let something lead where its tile does."""
        click = self._click(view.tile.leads())
        if click:
            named.insert(0, self._parsed(click))

    def _click(self, address: str) -> str:
        goal = self._leads(address) if address else ""
        return f"<a:hlinkClick {goal}/>" if goal else ""

    def _add_picture(self, png: bytes, name: str, said: str, space: Space, scene: Scene, *, turn: float = 0.0) -> Any:
        """Add a picture; return the element that names it."""
        left, top = space.place(0, 0)
        size = Emu(max(1, space.emu(scene.width))), Emu(max(1, space.emu(scene.height)))
        picture = self.slide.shapes.add_picture(io.BytesIO(_smaller(png)), Emu(left), Emu(top), *size)
        picture.rotation = turn
        named = picture._element.nvPicPr.cNvPr
        named.set("id", str(self.ids.next()))
        named.set("name", name)
        named.set("descr", said)
        if not said:
            named.append(self._parsed(_DECORATIVE))
        return named

    def _add_group(
        self,
        name: str,
        said: str,
        made: Sequence[str],
        space: Space,
        scene: Scene,
        *,
        turn: float = 0.0,
        leads: str = "",
    ) -> None:
        """Add shapes as one that is moved as a whole; ``said`` stands for it where it cannot be seen."""
        if not made:
            return
        left, top = space.place(0, 0)
        wide, high = max(1, space.emu(scene.width)), max(1, space.emu(scene.height))
        turned = f' rot="{round(turn * 60_000)}"' if turn else ""
        place = (
            f'<a:xfrm{turned}><a:off x="{left}" y="{top}"/><a:ext cx="{wide}" cy="{high}"/>'
            f'<a:chOff x="{left}" y="{top}"/><a:chExt cx="{wide}" cy="{high}"/></a:xfrm>'
        )
        told = f' descr="{escaped(said)}"' if said else ""
        inner = self._click(leads) + ("" if said else _DECORATIVE)
        named = f'<p:cNvPr id="{self.ids.next()}" name="{escaped(name)}"{told}>{inner}</p:cNvPr>'
        self._append(
            f"<p:grpSp><p:nvGrpSpPr>{named}<p:cNvGrpSpPr/><p:nvPr/></p:nvGrpSpPr>"
            f"<p:grpSpPr>{place}</p:grpSpPr>{''.join(made)}</p:grpSp>"
        )

    def _hidden_title(self) -> None:
        """Give a slide without a heading a title that stands above it: for its outline, and for those who listen."""
        band = self.plan.bands[0]
        said = band.band.message.strip() or _label(band.tiles[0])
        run = f'<a:r><a:rPr sz="1800"/><a:t>{escaped(said, quote=False)}</a:t></a:r>'
        place = Space().frame(0, -80, 960, 40)
        self._append(text_shape(self.ids.next(), "Title", place, f"<a:p>{run}</a:p>", title=True))

    def _leads(self, address: str) -> str:
        """Return the attributes by which a text or a shape leads to an address, or to the slide of a band."""
        band = band_of(address)
        if not band:
            return f'r:id="{self.slide.part.relate_to(address, RT.HYPERLINK, is_external=True)}"'
        goal = self.goals.get(band)
        if goal is None:
            return ""
        return f'r:id="{self.slide.part.relate_to(goal.part, RT.SLIDE)}" action="ppaction://hlinksldjump"'

    def _append(self, markup: str) -> None:
        self.slide.shapes._spTree.append(self._parsed(markup))

    def _parsed(self, markup: str) -> Any:
        end = markup.index(">") if markup[markup.index(">") - 1] != "/" else markup.index("/>")
        spoken = markup[end:].replace("<a:rPr ", f'<a:rPr lang="{escaped(self.page.report.language)}" ')
        return parse_xml(f"{markup[:end]} {_SPACES}{spoken}")


def _ornament(scene: Scene, scale: float) -> bytes:
    made = TypstPage(scene.width, scene.height, "Ground", "en", CLEAR)
    made.add_ornament(scene, 0, 0)
    return made.compile("png", ppi=96 * scale)


def _written_of(view: TileView) -> Written | None:
    """Return what a tile says where it is nothing but text."""
    is_text = not view.scene.name and not any(isinstance(shape, Path) for shape in view.scene.shapes)
    return view.tile.writes(view.context) if is_text else None


def _label(view: TileView) -> str:
    return " ".join(allowed(view.tile.label()).split())[:_MOST_NAME]


def _said(view: TileView) -> str:
    return allowed(view.scene.told)


def _notes(bands: Sequence[BandView]) -> Iterator[str]:
    """Yield what somebody who shows the slide has before them: what the band says, and what each drawing shows."""
    for band in bands:
        if band.band.message.strip():
            yield band.band.message.strip()
        for view in band.tiles:
            if view.drawn.answer is not None and view.scene.description:
                yield f"{_label(view)}: {view.scene.description}"


def _smaller(png: bytes) -> bytes:
    """Return a picture as JPEG where nothing is seen through it and that is much smaller, as of photographs."""
    from PIL import Image

    if len(png) < 1 << 18:
        return png
    image = Image.open(io.BytesIO(png)).convert("RGBA")
    if image.getchannel("A").getextrema() != (255, 255):
        return png
    buffer = io.BytesIO()
    image.convert("RGB").save(buffer, "JPEG", quality=88)
    return min(png, buffer.getvalue(), key=len)
