"""A report, or one band of it, kept as a template: its columns become roles, its words stay or become questions."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from itertools import count
from typing import Any, Literal

from ypsil.core.document.model import Frame, PageFormat
from ypsil.core.document.page_formats import PAGE_FORMATS
from ypsil.core.draft import Subject
from ypsil.core.draft.sentences import span_of
from ypsil.core.errors import YpsilError
from ypsil.core.report.document import MAX_TILES_IN_BAND, Band, ReportBody
from ypsil.core.tables.model import Column, Kind
from ypsil.core.tables.shown_names import in_words
from ypsil.core.templates.matching import can_play
from ypsil.core.templates.model import ASKING, MOST_NEEDS, BandPlan, Kept, Laid, Look, Need, Template
from ypsil.core.templates.own import looks_of, opened, without_defaults, words_asked_for
from ypsil.core.templates.roles import leading_groups
from ypsil.core.tiles import AnyTile, SpotTile, as_text, as_visual
from ypsil.core.tiles.typed import TypedTile

OWN = "My own pages"
MOST_SAID = 300
_SHORT = 80
_LONGEST_NAME = 50
_MOST_GROUPS = 9
_BY_KIND: dict[Kind, tuple[str, str]] = {
    "number": ("amount", "an amount"), "date": ("when", "a date"), "category": ("group", "groups"),
    "place": ("place", "places"), "yesno": ("answer", "yes or no"), "list": ("choice", "several answers each"),
    "text": ("told", "text that people wrote"),
}  # fmt: skip
_ASKED = {
    "title": "What is the message, in one sentence?",
    "heading": "What does this part say?",
    "lead": "What should readers know first?",
    "body": "What is to be told here?",
    "note": "What else has to be said?",
    "quote": "Who said what?",
    "big": "Which number is it?",
    "label": "What is this called?",
}
# Roles whose words are mostly the same in every report: what names things, and does not tell what was found.
_STAYING = ("label", "note")
# What is of the one report alone.
_NOT_KEPT = ("id", "place", "why", "is_locked", "cites", "alt", "says_of")
_DIGIT = re.compile(r"\d")
_PICTURE = "a picture"
_NOT_ASKED = "What asks another table, or nothing that another could answer, is not in it, and its place is kept"
_KIND_OF_PAGE: dict[str, Literal["tall", "dashboard", "print", "slides", "post"]] = {
    "Infographic": "tall", "Dashboard": "dashboard", "Printed page": "print", "Slides": "slides", "Post": "post",
}  # fmt: skip


@dataclass(frozen=True, slots=True)
class Wording:
    """Something on a page that somebody wrote: what it says, whether it is likely to be the same in every report, and
    what is asked in its place where it is not."""

    tile: str
    says: str
    stays: bool
    asks: str


@dataclass(frozen=True, slots=True)
class Keeping:
    """How a report is kept: under which title, what it is for, which band alone, whose words stay, what is asked."""

    title: str
    says: str = ""
    band: str = ""
    stays: frozenset[str] = frozenset()
    asks: Mapping[str, str] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class KeptTemplate:
    """A template of a report, in words what of the report could not go into it, and the key of the table that it is
    made of, where it asks any."""

    template: Template
    left: tuple[str, ...]
    table: str = ""


def wordings(report: ReportBody, subjects: Sequence[Subject] = (), band: str = "") -> list[Wording]:
    """Return what somebody wrote on a page, or in one band of it, in reading order: texts and lists. What tells the
    finding of a visual, or of which rows the page is, follows the table and is not among them."""
    found = []
    subject = _subject(_bands(report, band), subjects)
    span = None if subject is None else span_of(subject)
    shown = {tile.id for one in _bands(report, band) for tile in one.shown()}
    for tile in (tile for one in _bands(report, band) for tile in one.shown()):
        text = as_text(tile)
        follows = text is not None and (text.says_of in shown or text.prose == span)
        if text is not None and not text.is_open() and not follows:
            plain = " ".join(text.plain.split())
            has_figures = bool(_DIGIT.search(plain)) or any(True for _ in text.prose.figures())
            stays = text.role in _STAYING and len(plain) <= _SHORT and not has_figures
            if plain:
                found.append(Wording(tile.id, plain, stays, text.hint or _ASKED[text.role]))
        elif text is None and _is_told(tile):
            label = tile.label()
            found.append(Wording(tile.id, label, False, f"{tile.called[:1].upper()}{tile.called[1:]}: what is told?"))
    return found


def kept_template(report: ReportBody, subjects: Sequence[Subject], keeping: Keeping, name: str) -> KeptTemplate:
    """Return a report, or a band, as a template of a name, to be filled with other tables.

    Its own table is the one that most of its tiles ask; where tiles ask others, or hold pictures, their places are
    kept. Raises YpsilError where there is no such band, or where there is nothing in it.
    """
    bands = _bands(report, keeping.band)
    if not any(band.tiles for band in bands):
        raise YpsilError("there is nothing on the page that could be kept as a template", remedy="add something first")
    crowded = next((band for band in bands if len(band.shown()) > MAX_TILES_IN_BAND), None)
    if crowded is not None:
        raise YpsilError(
            f"the band “{crowded.message}” has {len(crowded.shown())} tiles, also in groups, and a template holds "
            f"{MAX_TILES_IN_BAND} in a band",
            remedy="share them out among two bands",
        )
    subject = _subject(bands, subjects)
    maker = _Maker(bands, subject, keeping)
    plans = tuple(maker.plan(band) for band in bands)
    format_name = next((one for one, known in PAGE_FORMATS.items() if known.page == report.page), "")
    template = Template(
        name=name,
        title=keeping.title,
        purpose=OWN,
        structure=_structure(bands),
        says=keeping.says or f"Made of “{report.title}”."[:MOST_SAID],
        format=_kind_of(report.page, format_name),
        page=format_name,
        own_page=None if format_name else report.page,
        is_band=bool(keeping.band),
        look=Look(style=report.style, cards=report.cards, icons=report.icons),
        needs=tuple(maker.needs()),
        groups=maker.named_groups(),
        bands=plans,
    )
    return KeptTemplate(template, tuple(maker.left(report)), subject.key if subject is not None else "")


def _bands(report: ReportBody, band: str) -> list[Band]:
    found = [one for one in report.bands if (one.id == band if band else not one.is_tray)]
    if band and not found:
        raise YpsilError("this band is no longer there", remedy="choose another")
    return found


def _is_told(tile: AnyTile) -> bool:
    """Tell whether a tile tells its readers something that somebody typed into it."""
    silent = tile.is_open() or tile.decorates() or tile.joins() or tile.names_sources or tile.questions()
    return not silent and not _is_picture(tile)


def _is_picture(tile: AnyTile) -> bool:
    return tile.type == "picture"


def _structure(bands: Sequence[Band]) -> str:
    tiles = [tile for band in bands for tile in band.shown()]
    drawn = sum(as_visual(tile) is not None for tile in tiles)
    parts = [f"{len(bands)} bands"] if len(bands) > 1 else []
    parts += [f"{drawn} visual{'s' if drawn != 1 else ''}"] if drawn else []
    parts += [f"{len(tiles)} tiles in all" if len(tiles) != 1 else "1 tile"]
    return ", ".join(parts)


def _kind_of(page: PageFormat, name: str) -> Literal["tall", "dashboard", "print", "slides", "post"]:
    group = PAGE_FORMATS[name].group if name else ""
    return _KIND_OF_PAGE.get(group, "dashboard" if page.height else "tall")


def _subject(bands: Sequence[Band], subjects: Sequence[Subject]) -> Subject | None:
    """Return the table that most of the tiles ask."""
    asked = Counter(one.table for band in bands for tile in band.shown() for one in tile.questions())
    by_key = {subject.key: subject for subject in subjects}
    return next((by_key[key] for key, _ in asked.most_common() if key in by_key), None)


@dataclass(slots=True)
class _Maker:
    """A template in the making: who plays what of the table that it is made of."""

    bands: Sequence[Band]
    subject: Subject | None
    keeping: Keeping
    roles: dict[str, str] = field(default_factory=dict)
    _needs: dict[str, Need] = field(default_factory=dict)
    _shown: dict[str, str] = field(default_factory=dict)
    _left: Counter[str] = field(default_factory=Counter)
    _groups: list[str] = field(default_factory=list)
    _named: set[str] = field(default_factory=set)

    def __post_init__(self) -> None:
        tiles = [tile for band in self.bands for tile in band.shown()]
        self._shown = {tile.id: tile.label() for tile in tiles if as_visual(tile) is not None}
        for tile in tiles:
            for asked in tile.questions():
                for name in asked.question.columns():
                    self._play(asked.table, name)
        if self.subject is not None:
            played = {role: name for name, role in self.roles.items()}
            self._groups = leading_groups(self.subject, played)[:_MOST_GROUPS]
            asks = [one.question for tile in tiles for one in tile.questions() if one.table == self.subject.key]
            self._named = {value for one in asks for _, words in words_asked_for(one) for value in words}

    def _play(self, table: str, name: str) -> None:
        """Give a column a role, where it can play one."""
        if self.subject is None or table != self.subject.key or name in self.roles:
            return
        column = self.subject.profile.column(name)
        need = None if column is None else self._need(column)
        if need is not None and len(self._needs) < MOST_NEEDS:
            self.roles[name], self._needs[name] = need.role, need

    def _need(self, column: Column) -> Need | None:
        """Return what a column is needed for; None for one that nothing may be asked of."""
        assert self.subject is not None
        base, says = _BY_KIND[column.kind]
        taken = {need.role for need in self._needs.values()}
        role = next(one for one in _roles(base) if one not in taken)
        told = f"{says}, as “{in_words(column.name)[:_LONGEST_NAME]}”"
        plain = Need(role=role, kind=column.kind, says=told, like=column.name[:500])
        for more in ({}, {"is_each_row": True}):
            need = plain.model_copy(update=more)
            if any(able.name == column.name for able in can_play(need, self.subject)):
                return need
        return None

    def named_groups(self) -> tuple[str, ...]:
        """Return the groups that the page names, by their places."""
        found = [name if name in self._named else "" for name in self._groups]
        while found and not found[-1]:
            found.pop()
        return tuple(found)

    def needs(self) -> Iterator[Need]:
        """Yield the roles; without those that few tiles ask for it stands as well."""
        asking: Counter[str] = Counter()
        tiles = [tile for band in self.bands for tile in band.shown() if tile.questions()]
        for tile in tiles:
            asking.update({name for one in tile.questions() for name in one.question.columns()} & set(self.roles))
        most = max(asking.values(), default=0)
        for name, need in self._needs.items():
            yield need.model_copy(update={"required": 2 * asking[name] >= most})

    def left(self, report: ReportBody) -> Iterator[str]:
        """Yield in words what did not go into the template."""
        yield from (f"{said} ({many} times)" if many > 1 else said for said, many in self._left.items())
        if report.filters and not self.keeping.band:
            yield "Filters of the whole report stay with it"

    def plan(self, band: Band) -> BandPlan:
        laid = tuple(Laid(place=place, part=self._part(tile)) for tile, place in _placed(band))
        ground = band.ground
        if ground is not None and ground.picture:
            ground = ground.model_copy(update={"picture": ""})
            self._left["A picture behind a band is not in it"] += 1
        return BandPlan(
            message=self._opened_words(band.message),
            name=band.id,
            says_it=band.says_it,
            ground=ground,
            is_inset=band.is_inset,
            padding=band.padding,
            least_rows=band.least_rows,
            laid=laid,
        )

    def _part(self, tile: AnyTile) -> Kept:
        content = without_defaults(tile) | {"type": tile.type}
        for name in _NOT_KEPT:
            content.pop(name, None)
        text, shown = as_text(tile), as_visual(tile)
        # A form without words says nothing.
        if text is not None and (text.plain.strip() or text.hint):
            return self._text(text, content)
        asks = self.keeping.asks.get(tile.id, "")[:200]
        if _is_picture(tile):
            self._left["A picture is not in it, and its place is kept"] += 1
            return self._spot(tile, _PICTURE, "Which picture belongs here?")
        if text is None and _is_told(tile) and tile.id not in self.keeping.stays:
            return self._spot(tile, "", asks or tile.label())
        if shown is not None:
            content["options"] = looks_of(shown.visual, shown.options)
            if shown.title:
                content.pop("title", None)
            else:
                content["title"] = ""
        return self._with_roles(tile, content, asks or self._what(tile))

    def _text(self, text: TypedTile, content: dict[str, Any]) -> Kept:
        """Return words as they are told anew: as the finding of a visual, the same in every report, or asked for."""
        asks = self.keeping.asks.get(text.id, "")[:200] or text.hint or _ASKED[text.role]
        if text.says_of and text.says_of in self._shown:
            content.pop("text", None)
            return Kept(name=text.id, tile=content, finds=(text.says_of,), asks=asks)
        if self.subject is not None and text.prose == span_of(self.subject):
            content.pop("text", None)
            return Kept(name=text.id, tile=content, span=True, asks=asks)
        if text.id not in self.keeping.stays:
            return Kept(name=text.id, tile={**content, "text": "", "hint": asks}, asks=asks)
        return self._with_roles(text, content, asks)

    def _with_roles(self, tile: AnyTile, content: dict[str, Any], asks: str) -> Kept:
        made = self._opened(content)
        if made is None:
            self._left[_NOT_ASKED] += 1
            return self._spot(tile, "", self._what(tile))
        return Kept(name=tile.id, tile=made, asks=self._opened_words(asks)[:200])

    def _what(self, tile: AnyTile) -> str:
        shown = as_visual(tile)
        return self._opened_words(shown.title if shown is not None and shown.title else tile.label())[:200]

    def _spot(self, tile: AnyTile, purpose: str, asks: str) -> Kept:
        spot = without_defaults(SpotTile(id=tile.id, purpose=purpose, hint=asks[:200], card=tile.card))
        spot.pop("id", None)
        return Kept(name=tile.id, tile={**spot, "type": "spot"}, asks=asks[:200])

    def _opened(self, node: Any, within: str = "") -> Any:
        """Return a tile's data with roles for the columns that it asks for; None where it asks for one that plays
        none."""
        if isinstance(node, list):
            parts = [self._opened(one, within) for one in node]
            return (
                None if any(part is None and one is not None for part, one in zip(parts, node, strict=True)) else parts
            )
        if isinstance(node, str) and within == "text":
            return self._opened_words(node)
        if not isinstance(node, dict):
            return node
        is_asking = any(name in node for name in ("question", "feed"))
        table = node.get("table") or (node.get("feed") or {}).get("table")
        if is_asking and (self.subject is None or table != self.subject.key):
            return None
        made: dict[str, Any] = {}
        for name, value in node.items():
            if name in ASKING and isinstance(value, dict):
                assert self.subject is not None
                found = opened(value, self.roles, self.subject.profile)
            elif name == "table" and is_asking:
                continue
            else:
                found = self._opened(value, name)
            if found is None and value is not None:
                return None
            made[name] = found
        return made

    def _opened_words(self, text: str) -> str:
        """Return words with roles for the names of columns, of the table and of groups."""
        named = {self.subject.table.name, in_words(self.subject.table.name)} if self.subject is not None else set()
        if text.strip() in named:
            return "{table}"
        for name in sorted(self.roles, key=len, reverse=True):
            for said in {name, in_words(name)}:
                text = re.sub(rf"(?<!\w){re.escape(said)}(?!\w)", "{" + self.roles[name] + "}", text)
        for said in named - {""}:
            text = re.sub(rf"(?<![\w{{]){re.escape(said)}(?![\w}}])", "{table}", text)
        for place, group in enumerate(self._groups, start=1):
            if group in self._named:
                text = re.sub(rf"(?<!\w){re.escape(group)}(?!\w)", "{" + str(place) + "}", text)
        return text


def _roles(base: str) -> Iterator[str]:
    yield base
    for number in count(1):
        yield base + chr(ord("a") + number % 26) * (1 + number // 26)


def _placed(band: Band) -> Iterator[tuple[AnyTile, Frame]]:
    """Yield the tiles of a band, also those of groups, with their places in the band."""

    def flat(tiles: Sequence[AnyTile], column: int, row: int, layer: int) -> Iterator[tuple[AnyTile, Frame]]:
        foot = row
        for tile in tiles:
            width, height = tile.usual_size()
            place = tile.place or Frame(column=0, row=foot - row, width=min(width, 24), height=height)
            update = {"column": column + place.column, "row": row + place.row, "layer": layer + place.layer}
            at = place.model_copy(update=update)
            foot = max(foot, at.row + at.height)
            if tile.holds:
                yield from flat(tile.below(), at.column, at.row, at.layer)
            else:
                yield tile, at

    yield from flat(band.tiles, 0, 0, 0)
