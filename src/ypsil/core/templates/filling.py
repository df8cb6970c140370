"""A template with a table in it: a page that stands complete."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from itertools import count
from typing import Any

from pydantic import ValidationError

from ypsil.core.document.model import Frame, PageFormat
from ypsil.core.document.page_formats import PAGE_FORMATS
from ypsil.core.draft import Chooser, Draft, LeftOut, Subject
from ypsil.core.draft.sentences import sentence_for, span_of
from ypsil.core.errors import YpsilError
from ypsil.core.layout.reflow import reflow
from ypsil.core.prose.model import Prose
from ypsil.core.questions import Question, parse_question
from ypsil.core.report.document import Band, ReportBody
from ypsil.core.report.suggest import tile_for
from ypsil.core.style.cards import Card
from ypsil.core.style.house import HouseStyle
from ypsil.core.templates.flow import shared, stacked
from ypsil.core.templates.leading import leading_anew
from ypsil.core.templates.matching import Match, match
from ypsil.core.templates.model import (
    ROLE,
    AnyPart,
    BandPlan,
    Cell,
    Fed,
    Kept,
    Row,
    Shown,
    Template,
    Words,
    patterns_in,
    roles_in,
)
from ypsil.core.templates.own import Refilling
from ypsil.core.templates.roles import Casting
from ypsil.core.tiles import KINDS, AnyTile, SpotTile, TextTile, VisualTile, as_text, as_visual
from ypsil.core.visuals import VISUALS, fit

_LISTS = ("table", "bar", "lollipop", "ranked_list")
_LIST_ROWS, _ROWS_OF_LINE = 9, 3
_MOST_TITLE = 200
_AS_BEFORE = "It stood so on the page that the template was made of."
_FINDING = "What does it show? The finding comes from the table."


def filled(
    template: Template,
    subjects: Sequence[Subject],
    like: ReportBody,
    title: str = "",
    chosen: Mapping[str, str] | None = None,
) -> Draft:
    """Return a report of a template in the page of another, with the reason for each of its tiles.

    What the table has nothing for is left out, and what stands beside it takes its place. Without any table it is said
    in each place what belongs there. Raises YpsilError where the table lacks what the template needs; ``chosen`` names
    columns for roles.
    """
    found = match(template, subjects, chosen)
    if not found.fits and subjects:
        raise YpsilError(
            f"“{template.title}” needs {_listed(found.missing)}, and {found.subject.table.name} has none",
            remedy="choose another template, or make a page by rules",
        )
    maker = _Maker(found, like, title, is_open=not subjects)
    bands = tuple(leading_anew([band for plan in template.bands for band in maker.band(plan)], maker.names))
    look = template.look
    update = {
        "title": title or like.title, "bands": bands, "style": styled(template), "cards": look.cards,
        "icons": look.icons,
    }  # fmt: skip
    return Draft(like.model_copy(update=update), maker.why, tuple(maker.left_out(subjects)))


def page_of(template: Template) -> PageFormat:
    """Return the page that a template's places are laid out for."""
    return template.own_page or PAGE_FORMATS[template.page_name].page


def styled(look_of: Template) -> HouseStyle:
    """Return the style that a template brings."""
    look = look_of.look
    if look.style is not None:
        return look.style
    return HouseStyle(heading_family=look.heading, body_family=look.body).dressed(look.palette)


def _listed(words: Sequence[str]) -> str:
    return words[0] if len(words) == 1 else f"{', '.join(words[:-1])} and {words[-1]}"


@dataclass(slots=True)
class _Maker:
    """A page in the making: what was found for its visuals, and why each tile is there."""

    found: Match
    like: ReportBody
    title: str
    is_open: bool
    why: dict[str, str] = field(default_factory=dict)
    # What tiles and bands of the template are called now.
    names: dict[str, str] = field(default_factory=dict)
    _numbers: Iterator[int] = field(default_factory=lambda: count(1))
    _visuals: dict[int, tuple[VisualTile, str] | None] = field(default_factory=dict)
    _taken: list[Prose] = field(default_factory=list)
    _choose: Chooser | None = None
    _asked: set[str] = field(default_factory=set)
    _casting: Casting = field(init=False)

    def __post_init__(self) -> None:
        self._choose = Chooser.of(self.subject, set())
        self._casting = Casting(self.found, self.is_open)
        # Visuals first: texts say what they show.
        for part in self.found.template.parts():
            if self.is_open or not self._plays(part.needs):
                continue
            if isinstance(part, Shown):
                self._visuals[id(part)] = self._visual(part)
            elif isinstance(part, Kept) and part.tile["type"] == "visual":
                tile = as_visual(Refilling(self._casting).tile(part.tile))
                self._visuals[id(part)] = None if tile is None else (tile, _AS_BEFORE)

    @property
    def subject(self) -> Subject:
        return self.found.subject

    def _plays(self, needed: Sequence[str]) -> bool:
        return self.is_open or all(role in self.found.roles for role in needed)

    def band(self, plan: BandPlan) -> Iterator[Band]:
        """Yield the band of a plan, or nothing where the table has nothing for it."""
        if not self._plays(plan.needs) or any(role in self.found.roles for role in plan.unless):
            return
        rows = [(row, cells) for row in plan.rows if (cells := self._cells(row))]
        meant = [part for row in plan.rows for cell in row.cells for part in cell.parts if _tells(part)]
        if meant and not any(_tells(part) for _, cells in rows for _, parts in cells for part, _ in parts):
            return
        tiles: list[AnyTile] = []
        frames: list[Frame] = []
        for one in plan.laid:
            for tile in self._tile(one.part):
                tiles.append(tile)
                frames.append(one.place)
        top = 0
        columns = page_of(self.found.template).columns
        for row, cells in rows:
            high = self._height(row, cells)
            for (cell, parts), (left, width) in zip(cells, shared([cell for cell, _ in cells], columns), strict=True):
                tiles += [tile for _, tile in parts]
                frames += [
                    Frame(column=left, row=top + at, width=width, height=height)
                    for at, height in stacked([part for part, _ in parts], cell.gap, high)
                ]
            top += high + plan.gap
        before = page_of(self.found.template)
        put = frames if before == self.like.page else reflow(frames, before, self.like.page)
        placed = tuple(tile.model_copy(update={"place": place}) for tile, place in zip(tiles, put, strict=True))
        made = f"b{next(self._numbers)}"
        if plan.name:
            self.names[plan.name] = made
        yield Band(
            id=made,
            message=self._casting.named(plan.message),
            says_it=plan.says_it,
            least_rows=plan.least_rows,
            ground=plan.ground,
            is_inset=plan.is_inset,
            padding=plan.padding,
            tiles=placed,
        )

    def _height(self, row: Row, cells: Sequence[tuple[Cell, Sequence[tuple[AnyPart, AnyTile]]]]) -> int:
        """Return how high a row is: as said, or no higher than its lists need."""
        if not row.is_list:
            return row.height
        needed = [
            sum(part.height for part, _ in parts) + cell.gap * (len(parts) - 1)
            + _LIST_ROWS + _ROWS_OF_LINE * self.subject.table.answer(shown.question).height
            for cell, parts in cells
            for _, tile in parts
            if (shown := as_visual(tile)) is not None and shown.visual in _LISTS
        ]  # fmt: skip
        return min(row.height, max(needed)) if needed else row.height

    def left_out(self, subjects: Sequence[Subject]) -> Iterator[LeftOut]:
        """Yield the columns that nothing on the page asks for, each with the reason."""
        for subject in subjects:
            for column in subject.profile.columns:
                if subject is not self.subject:
                    yield LeftOut(subject.table.name, column.name, "another table fits the template better")
                elif column.name not in self._asked:
                    why = subject.why_not(column) or "the template has no place for it"
                    yield LeftOut(subject.table.name, column.name, why)

    def _cells(self, row: Row) -> list[tuple[Cell, list[tuple[AnyPart, AnyTile]]]]:
        """Return the cells of a row with their tiles; those of which the table has nothing to tell are left out, and
        the whole row where that are all that should."""
        made = [(cell, [(part, tile) for part in cell.parts for tile in self._tile(part)]) for cell in row.cells]
        kept = [
            (cell, parts) for cell, parts in made if parts and (_is_still(cell) or any(_tells(one) for one, _ in parts))
        ]
        meant = any(_tells(part) for cell in row.cells for part in cell.parts)
        return kept if not meant or any(_tells(one) for _, parts in kept for one, _ in parts) else []

    def _tile(self, part: AnyPart) -> Iterator[AnyTile]:
        if not self._plays(part.needs):
            return
        if isinstance(part, Words):
            yield from self._words(part)
        elif isinstance(part, Shown):
            found = self._visuals.get(id(part))
            if found is not None:
                tile, why = found
                shown = tile.model_copy(update={"id": self._id(why), "why": why, "card": part.card})
                if part.name:
                    self.names[part.name] = shown.id
                yield shown
            elif part.asks or self.is_open:
                yield self._spot(part.asks or _shows(part), part.purpose or "", part.card)
        elif isinstance(part, Fed):
            yield from [self._spot("One row of the table each", "", part.card)] if self.is_open else self._fed(part)
        elif isinstance(part, Kept):
            yield self._kept(part)
        else:
            yield self._still(part.tile, "It gives the page its form.", part.card)

    def _kept(self, part: Kept) -> AnyTile:
        """Return a tile of somebody's own with the table in it, or its place where the table has nothing for it."""
        content = dict(part.tile)
        refilling = Refilling(self._casting)
        found = self._visuals.get(id(part))
        tile: AnyTile | None = None
        if part.finds or part.span:
            tile = self._telling(part, refilling)
        elif content["type"] == "visual":
            tile = found[0] if found is not None else None
        elif not self.is_open or not any(True for _ in patterns_in(content)):
            tile = refilling.tile(content)
        if tile is None and content["type"] == "text":
            tile = refilling.tile({**content, "text": "", "hint": part.asks})
        if tile is None:
            kept = self._spot(part.asks or "Something of another table stood here", "", None)
            tile = kept.model_copy(update={"card": _card_of(content)})
        else:
            tile = tile.model_copy(update={"id": self._id(_AS_BEFORE)})
        if part.name:
            self.names[part.name] = tile.id
        return tile

    def _telling(self, part: Kept, refilling: Refilling) -> AnyTile | None:
        """Return a text of somebody's own that tells what a visual shows, or of which rows the page is."""
        says_of, says = self._finding(part)
        text = None if says is None else as_text(refilling.tile({**part.tile, "text": "", "says_of": says_of}))
        return None if text is None else text.model_copy(update={"text": says})

    def _spot(self, hint: str, purpose: str, card: Card | None) -> SpotTile:
        made = self._id("No table has it yet: the place is kept for it.")
        return SpotTile(id=made, purpose=purpose, hint=self._said(hint[:1].upper() + hint[1:]), card=card)

    def _words(self, part: Words) -> Iterator[AnyTile]:
        says: str | Prose = self._said(part.text)
        says_of = ""
        why = "It says what stands there."
        if part.role == "title" and self.title:
            says, why = self.title, "The title that was given."
        elif part.finds or part.span:
            says_of, found = self._finding(part)
            if found is not None:
                says, why = found, "The finding of a visual." if part.finds else "Which rows the numbers are of."
        asks = part.asks or (_FINDING if self.is_open and part.finds else "")
        if not says and not asks:
            return
        if not says:
            why = "A question to you: readers never see it."
        made = {
            "id": self._id(why), "role": part.role, "text": says, "hint": self._said(asks), "align": part.align,
            "size": part.size, "colour": part.colour, "card": part.card, "why": why if says else "",
            "says_of": says_of,
        }  # fmt: skip
        yield TextTile.model_validate(made)

    def _finding(self, part: Words | Kept) -> tuple[str, Prose | None]:
        """Return what a text says of a visual, and of which; without one, nothing."""
        if part.span:
            return "", None if self.is_open else span_of(self.subject)
        return self._says(part.finds)

    def _says(self, finds: Sequence[str]) -> tuple[str, Prose | None]:
        """Return the first of some visuals that has a finding which nothing else says, and that."""
        for name in finds:
            for one in self.found.template.parts():
                shown = self._visuals.get(id(one))
                if isinstance(one, Shown | Kept) and one.name == name and shown is not None:
                    says = sentence_for(shown[0].question, self.subject, self._taken)
                    if says is not None:
                        self._taken.append(says)
                        return name, says
        return "", None

    def _visual(self, part: Shown) -> tuple[VisualTile, str] | None:
        """Return the first visual that suits an answer to one of the questions, and why it is there."""
        for question in self._questions(part):
            try:
                answer = self.subject.table.answer(question)
            except YpsilError:
                continue
            for name in part.visuals:
                fitness = fit(VISUALS[name], answer)
                if fitness.fits and answer.height:
                    self._asked |= set(question.columns())
                    return self._tuned(tile_for(self.subject.key, question, name), part), fitness.reason
        assert self._choose is not None
        one = self._choose.best(part.purpose, part.visuals) if part.purpose else None
        if one is None:
            return None
        self._asked |= set(one.tile.question.columns())
        return self._tuned(one.tile, part), one.reason

    def _tuned(self, tile: VisualTile, part: Shown) -> VisualTile:
        entry = VISUALS[tile.visual]
        known = {
            name: self._said(value) if isinstance(value, str) else value
            for name, value in part.options.items()
            if name in entry.options.model_fields
        }
        options = {**tile.options, **known}
        update: dict[str, Any] = {"options": options}
        if not part.is_titled:
            update["title"] = ""
        return tile.model_copy(update=update)

    def _questions(self, part: Shown) -> Iterator[Question]:
        for pattern in part.questions:
            if roles_in(pattern) <= set(self.found.roles):
                try:
                    question = parse_question(self._casting.resolved(pattern))
                except (YpsilError, ValidationError):
                    continue
                if not self._counts_a_grid(question):
                    yield question

    def _counts_a_grid(self, question: Question) -> bool:
        """Tell whether a question counts rows of a table that has one for each time and each group: that says how the
        table is made, and nothing of what it is about."""
        assert self._choose is not None
        return self._choose.is_grid and all(one.stat == "count" and one.column is None for one in question.measures)

    def _fed(self, part: Fed) -> Iterator[AnyTile]:
        """Yield a list that is told from the rows, or nothing where a column that it needs is not there."""
        feed = part.tile.get("feed", {})
        if isinstance(feed, dict) and not roles_in(feed.get("head", "")) <= set(self.found.roles):
            return
        known = {
            name: value for name, value in feed.items()
            if not (isinstance(value, str) and value.startswith(ROLE)) or value.removeprefix(ROLE) in self.found.roles
        }  # fmt: skip
        resolved = self._casting.resolved(known)
        self._asked |= {value for value in resolved.values() if isinstance(value, str)}
        content = {**part.tile, "feed": {"table": self.subject.key, **resolved}} if feed else dict(part.tile)
        yield self._still(content, "It tells the rows of the table one by one.", part.card)

    def _still(self, content: dict[str, Any], why: str, card: Card | None = None) -> AnyTile:
        made = {**content, "id": self._id(why), "why": why}
        if card is not None:
            made["card"] = card
        return KINDS[content["type"]].model_validate(made)

    def _said(self, text: str) -> str:
        """Return a title with the names of columns and of the table in it."""
        return self._casting.named(text)[:_MOST_TITLE]

    def _id(self, why: str) -> str:
        made = f"t{next(self._numbers)}"
        self.why[made] = why
        return made


def _is_still(cell: Cell) -> bool:
    return not any(_tells(part) for part in cell.parts)


def _tells(part: AnyPart) -> bool:
    """Tell whether a part says something of the table, or asks its author for something."""
    if isinstance(part, Words):
        return bool(part.finds or part.span or part.asks)
    return isinstance(part, Shown | Fed | Kept) or part.tile["type"] == "sources"


def _shows(part: Shown) -> str:
    """Return in words what a visual shows that is still to come."""
    return VISUALS[part.visuals[0]].purpose if part.visuals else (part.purpose or "Something of the table")


def _card_of(content: Mapping[str, Any]) -> Card | None:
    """Return the card of a tile that is not there: without the words at its head, which name what it showed."""
    return Card.model_validate({**content["card"], "says": "", "icon": ""}) if content.get("card") else None
