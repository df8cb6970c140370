"""A first draft of a page: what was chosen of some tables, said in sentences and laid out."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field, replace
from itertools import count

from ypsil.core.document.model import Frame
from ypsil.core.draft import screen
from ypsil.core.draft.choosing import Piece, chosen
from ypsil.core.draft.sentences import span_of
from ypsil.core.draft.subjects import Subject
from ypsil.core.layout.reflow import reflow
from ypsil.core.prose.model import Prose
from ypsil.core.report.arrangements.model import DRAWN_FOR
from ypsil.core.report.document import Band, ReportBody
from ypsil.core.style.cards import Card
from ypsil.core.style.grounds import Ground
from ypsil.core.tables.conditions import Filter
from ypsil.core.tables.shown_names import in_words
from ypsil.core.tiles import AnyTile, SourcesTile, TextTile, VisualTile, as_text

_COLUMNS = DRAWN_FOR.columns
_FIGURE_ROWS, _CHART_ROWS, _HEADING_ROWS = 25, 40, 5
# A list is as high as its lines.
_LISTS = ("table", "bar", "lollipop", "ranked_list")
_LEAST_LIST_ROWS, _MOST_LIST_ROWS, _ROWS_OF_LINE = 24, 72, 3
_HEAD = Ground(colour="deep", to="accent", way="slope")
_WASH = Ground(colour="wash")
# What stands beside each other, and how wide each is.
_PAIRS = {"leads": ("share", 15), "together": ("spread", 14), "answers": ("answers", 12)}
_MESSAGES = {
    "figures": "In figures", "trend": "How it changes", "leads": "Who leads", "share": "Parts of the whole",
    "together": "What goes together", "spread": "How it is spread", "answers": "What people answered",
    "said": "What people say", "rows": "To look up",
}  # fmt: skip
_LOOKS_BACK = 13
_NO_ROOM = "other columns say more, and a page has room for nine visuals"


@dataclass(frozen=True, slots=True)
class LeftOut:
    """A column that nothing on the page asks for, and why."""

    table: str
    column: str
    why: str


@dataclass(frozen=True, slots=True)
class Draft:
    """A report, the reason for each of its tiles, and what of the tables is not on it."""

    body: ReportBody
    why: dict[str, str]
    left_out: tuple[LeftOut, ...]


def draft(subjects: Sequence[Subject], like: ReportBody, title: str = "") -> Draft:
    """Return a report of some tables in the format and the style of another; the same of the same tables.

    Without a ``title`` the strongest finding is its headline. What the tables have not is not on it.
    """
    pieces = list(_figures_apart(chosen(subjects)))
    telling = [piece for piece in pieces if piece.part != "figures" and piece.says is not None]
    strongest = next((piece for piece in telling if not _is_weak(piece)), telling[0] if telling else None)
    maker = _Maker(like, strongest)
    if screen.is_one_screen(like.page):
        pieces = _on_a_screen(pieces, strongest)
        bands = [maker.screen(subjects, pieces, title)]
    else:
        bands = [maker.head(subjects, title), *(maker.band(group) for group in _grouped(pieces)), maker.sources()]
    if not title:
        bands = [band.model_copy(update={"tiles": tuple(map(maker.headed, band.tiles))}) for band in bands]
    body = like.model_copy(update={"title": title or like.title, "bands": tuple(bands)})
    return Draft(body, maker.why, tuple(_left_out(subjects, pieces)))


@dataclass(slots=True)
class _Maker:
    """A page in the making: what it is like, the finding that is its headline, and what was said of its tiles."""

    like: ReportBody
    strongest: Piece | None
    why: dict[str, str] = field(default_factory=dict)
    # The visual whose finding is the headline.
    leads: str = ""
    _numbers: Iterator[int] = field(default_factory=lambda: count(1))

    def head(self, subjects: Sequence[Subject], title: str) -> Band:
        """Return the band with the headline: what the page says, and what it is made of."""
        names = " and ".join(in_words(subject.table.name) for subject in subjects)
        says = self.strongest.says if self.strongest else None
        why = "The title that was given." if title else "The strongest finding is the headline."
        tiles = [
            (self._text("label", names, "What the page is made of."), Frame(column=0, row=1, width=_COLUMNS, height=3)),
            (self._text("title", title or says or names, why), Frame(column=0, row=4, width=_COLUMNS, height=10)),
        ]
        opening = [one for one in (says if title else None, *map(span_of, subjects)) if one]
        if opening:
            words = Prose(blocks=tuple(block for one in opening for block in one.blocks))
            lead = self._text("lead", words, "Which rows and which time the numbers are of.")
            tiles.append((lead, Frame(column=0, row=15, width=20, height=5)))
        return self._placed("Headline", tiles, _HEAD)

    def headed(self, tile: AnyTile) -> AnyTile:
        """Return a tile of the page; the headline names the visual whose finding it is."""
        text = as_text(tile)
        is_headline = text is not None and self.strongest is not None and text.prose == self.strongest.says
        if text is None or not is_headline or text.says_of:
            return tile
        return text.model_copy(update={"says_of": self.leads})

    def band(self, group: Sequence[Piece]) -> Band:
        """Return a band of visuals beside each other, each under its finding."""
        tiles: list[tuple[AnyTile, Frame]] = []
        column = 0
        is_figures = group[0].part == "figures"
        for piece, width in zip(group, _widths(group), strict=True):
            visual = self._visual(piece, piece.tile.card)
            top = 0
            if piece.says is not None and self._heads(piece) and not is_figures:
                top = _HEADING_ROWS
                said = self._text("heading", piece.says, "The finding of the visual below it.", visual.id)
                tiles.append((said, Frame(column=column, row=0, width=width, height=top)))
            if is_figures:
                visual = visual.model_copy(update={"card": Card(fill="paper")})
            height = _FIGURE_ROWS if is_figures else _rows_of(piece)
            tiles.append((visual, Frame(column=column, row=top, width=width, height=height)))
            column += width
        return self._placed(_MESSAGES[group[0].part], tiles, _WASH if is_figures else None)

    def screen(self, subjects: Sequence[Subject], pieces: Sequence[Piece], title: str) -> Band:
        """Return the one band of a page that is one screen."""
        page = self.like.page
        names = " and ".join(in_words(subject.table.name) for subject in subjects)
        says = self.strongest.says if self.strongest else None
        why = "The title that was given." if title else "The strongest finding is the headline."
        tiles: list[AnyTile] = [self._text("heading", title or says or names, why)]
        frames = [screen.title_frame(page)]
        figures = [piece for piece in pieces if piece.part == "figures"]
        charts = [piece for piece in pieces if piece.part != "figures"]
        for piece, frame in zip(figures, screen.figure_frames(page, len(figures)), strict=True):
            tiles.append(self._visual(piece, Card(fill="tint")))
            frames.append(frame)
        places = screen.chart_frames(page, len(charts), has_figures=bool(figures))
        for piece, frame in zip(charts, places, strict=True):
            visual = self._visual(piece, None)
            if piece.says is not None and self._heads(piece):
                tiles.append(self._text("body", piece.says, "The finding of the visual below it.", visual.id))
                frames.append(frame.model_copy(update={"height": screen.FINDING_ROWS}))
                low = {"row": frame.row + screen.FINDING_ROWS, "height": frame.height - screen.FINDING_ROWS}
                frame = frame.model_copy(update=low)
            tiles.append(visual)
            frames.append(frame)
        tiles.append(SourcesTile(id=self._id("Every page says where its numbers come from.")))
        frames.append(screen.sources_frame(page))
        put = tuple(tile.model_copy(update={"place": frame}) for tile, frame in zip(tiles, frames, strict=True))
        return Band(id=f"b{next(self._numbers)}", message="All at once", padding=screen.PADDING, tiles=put)

    def _visual(self, piece: Piece, card: Card | None) -> VisualTile:
        made = piece.tile.model_copy(update={"id": self._id(piece.why), "why": piece.why, "card": card})
        if piece is self.strongest:
            self.leads = made.id
        return made

    def sources(self) -> Band:
        tile = SourcesTile(id=self._id("Every page says where its numbers come from."))
        return self._placed("Sources", [(tile, Frame(column=0, row=0, width=_COLUMNS, height=4))], _WASH)

    def _heads(self, piece: Piece) -> bool:
        """Tell whether a finding stands above its visual: it is not the headline."""
        return piece.says is not None and piece is not self.strongest

    def _text(self, role: str, text: str | Prose, why: str, says_of: str = "") -> TextTile:
        made = {"id": self._id(why), "role": role, "text": text, "says_of": says_of}
        return TextTile.model_validate(made)

    def _id(self, why: str) -> str:
        """Return a new id of a tile that is there for a reason."""
        made = f"t{next(self._numbers)}"
        self.why[made] = why
        return made

    def _placed(self, message: str, tiles: Sequence[tuple[AnyTile, Frame]], ground: Ground | None) -> Band:
        frames = reflow([frame for _, frame in tiles], DRAWN_FOR, self.like.page)
        put = tuple(tile.model_copy(update={"place": frame}) for (tile, _), frame in zip(tiles, frames, strict=True))
        return Band(id=f"b{next(self._numbers)}", message=message, ground=ground, tiles=put)


def _figures_apart(pieces: Sequence[Piece]) -> Iterator[Piece]:
    """Yield the pieces, none of which asks what another does: a figure beside a trend of the same looks back a year and
    a month, and where there is no more than that, the trend is enough."""
    asked = {piece.tile.question.digest() for piece in pieces if piece.part != "figures"}
    for piece in pieces:
        question = piece.tile.question
        if piece.part != "figures" or question.digest() not in asked:
            yield piece
        elif question.per[0].grain == "month" and piece.subject.table.answer(question).height > _LOOKS_BACK:
            last = Filter(column=question.per[0].column, test="last", count=_LOOKS_BACK, by="month")
            shorter = question.model_copy(update={"where": (*question.where, last)})
            yield replace(piece, tile=piece.tile.model_copy(update={"question": shorter}))


def _is_weak(piece: Piece) -> bool:
    """Tell whether a finding says when something was highest, and nothing of how it changed: that may be one row, and
    whatever else is found says more."""
    figure = next(piece.says.figures(), None) if piece.part == "trend" and piece.says is not None else None
    return figure is not None and figure.take == "name"


def _on_a_screen(pieces: Sequence[Piece], strongest: Piece | None) -> list[Piece]:
    """Return the pieces that one screen has room for: the first figures, and the first charts, of which the strongest
    finding is one."""
    figures = [piece for piece in pieces if piece.part == "figures"][: screen.MOST_FIGURES]
    charts = sorted((piece for piece in pieces if piece.part != "figures"), key=lambda piece: piece is not strongest)
    return [*figures, *charts[: screen.MOST_CHARTS]]


def _grouped(pieces: Sequence[Piece]) -> Iterator[list[Piece]]:
    """Yield what stands in one band: the figures of a table, and pairs that stand beside each other."""
    left = list(pieces)
    while left:
        first = left.pop(0)
        of_same = [one for one in left if one.subject == first.subject]
        if first.part == "figures":
            group = [first, *(one for one in of_same if one.part == "figures")]
        else:
            beside = [one for one in of_same if one.part == _PAIRS.get(first.part, ("",))[0]]
            group = [first, *beside[:1]]
        left = [one for one in left if one not in group]
        yield group


def _widths(group: Sequence[Piece]) -> list[int]:
    if len(group) == 2 and group[0].part in _PAIRS:
        wide = _PAIRS[group[0].part][1]
        return [wide, _COLUMNS - wide]
    return [_COLUMNS // len(group)] * len(group)


def _rows_of(piece: Piece) -> int:
    """Return how high a visual is, in rows of the page."""
    if piece.tile.visual not in _LISTS:
        return _CHART_ROWS
    lines = piece.subject.table.answer(piece.tile.question).height
    return min(_MOST_LIST_ROWS, max(_LEAST_LIST_ROWS, 8 + _ROWS_OF_LINE * lines))


def _left_out(subjects: Sequence[Subject], pieces: Sequence[Piece]) -> Iterator[LeftOut]:
    """Yield the columns that nothing asks for, each with the reason."""
    for subject in subjects:
        own = [piece for piece in pieces if piece.subject.key == subject.key]
        asked = {name for piece in own for name in piece.tile.question.columns()}
        for column in subject.profile.columns:
            if column.name not in asked:
                yield LeftOut(subject.table.name, column.name, subject.why_not(column) or _NO_ROOM)
