"""The themes of written answers: what carries which, what is still to be read, and what is decided by hand."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any

import numpy as np

from ypsil.core.cache import Cache
from ypsil.core.figures import format_share
from ypsil.core.tables.steps import StepRefused
from ypsil.core.tables.steps.texts import WRITTEN, FindThemes
from ypsil.core.tables.theme_changes import CODED, change_themes, theme_steps
from ypsil.core.text.contexts import Piece
from ypsil.core.text.corpus import Corpus, corpus_of, of_answers
from ypsil.core.text.count import Term, count_in
from ypsil.core.text.settings import WordSettings
from ypsil.core.text.stems import LANGUAGES as STEMMED
from ypsil.core.text.stopwords import guess_language
from ypsil.core.text.themes import (
    Carrying,
    Decision,
    ThemeRules,
    answer_key,
    find_themes,
    marked_themes,
    with_decisions,
)
from ypsil.web.accounts.services import User
from ypsil.web.gather import recipes
from ypsil.web.gather.blobs import frame_of
from ypsil.web.gather.models import Arrival, Table
from ypsil.web.gather.preparing import columns_of, prepared
from ypsil.web.gather.recipe_log import save_recipe

ANSWERS_AT_ONCE = 40
WORDS_AT_ONCE = 60
# What the reading list can show; the name of a theme follows the last.
UNREAD, READ, ALL, ABOUT = "unread", "read", "all", "about "


@dataclass(frozen=True)
class Written:
    """The different answers of a column, those that were given most often first, and how many people gave each."""

    texts: list[str]
    keys: list[str]
    people: np.ndarray
    corpus: Corpus
    places: dict[str, int]
    by_words: dict[str, Carrying] = field(default_factory=dict)

    def carrying(self, rules: ThemeRules) -> Carrying:
        """Return which answers carry which themes; what their words say is kept for as long as the words stay."""
        words = rules.model_copy(update={"decisions": {}})
        name = words.model_dump_json()
        if name not in self.by_words:
            self.by_words.clear()
            self.by_words[name] = find_themes(self.texts, words, self.corpus)
        found = self.by_words[name]
        rows_of = {key: [place] for key, place in self.places.items() if key in rules.decisions}
        return Carrying(with_decisions(found.carried, rows_of, rules), found.answered)


@dataclass(frozen=True)
class ThemeLine:
    """A theme with its words, how many people's answers carry it, their share in words, and its key on the keyboard."""

    name: str
    terms: tuple[str, ...]
    people: int
    share: str
    digit: str


@dataclass(frozen=True)
class Toggle:
    """A theme beside an answer: whether the answer carries it, and whether a reader said so."""

    name: str
    digit: str
    carries: bool
    by_hand: bool


@dataclass(frozen=True)
class ReadAnswer:
    """One answer to be read: its text with the themes' words marked, how many people gave it, and its themes."""

    key: str
    pieces: tuple[Piece, ...]
    people: int
    toggles: list[Toggle]
    decided: bool


@dataclass(frozen=True)
class Listed:
    """A line of the reading list."""

    key: str
    text: str
    people: int


class ThemeDesk:
    """The themes of one column of a table as they stand in its recipe; without a step there are none yet."""

    def __init__(self, table: Table, *, of: str = "", column: str = "") -> None:
        recipe = table.read_recipe()
        steps = [(at, step) for at, step in theme_steps(recipe) if (step.into == of if of else step.column == column)]
        nothing: tuple[int, FindThemes | None] = (len(recipe.steps), None)
        self.at, self.step = steps[-1] if steps else nothing
        if of and self.step is None:
            raise StepRefused("there are no such themes any more", remedy="choose a column of the table")
        before = prepared(table, recipe=recipe.model_copy(update={"steps": recipe.steps[: self.at]}))
        self.column = self.step.column if self.step else column
        written = [one for one in columns_of(before) if one.kind in WRITTEN]
        self.columns = [one.name for one in sorted(written, key=lambda one: one.kind != "text")]
        if self.column and self.column not in self.columns:
            raise StepRefused(f"there is no column “{self.column}” of written answers", remedy="choose another")
        self.written = _written(before.rows_blob_id, self.column)
        language = self.step.language if self.step else language_of(self.written)
        self.rules = (self.step or FindThemes(column=self.column, into="", language=language)).rules

    @property
    def of(self) -> str:
        return self.step.into if self.step else ""

    @property
    def carrying(self) -> Carrying:
        return self.written.carrying(self.rules)

    @property
    def answered(self) -> int:
        return int(self.written.people.sum())

    def lines(self, carrying: Carrying) -> list[ThemeLine]:
        people = self.written.people @ carrying.carried.astype(np.int64)
        return [
            ThemeLine(theme.name, theme.terms, int(count), self._share(int(count)), _digit(place))
            for place, (theme, count) in enumerate(zip(self.rules.themes, people.tolist(), strict=True))
        ]

    def _share(self, count: int) -> str:
        return format_share(count / max(1, self.answered))

    def uncoded(self, carrying: Carrying) -> dict[str, Any]:
        """Return how many people's answers carry no theme, and how many different ones are still to be read."""
        people = int(self.written.people[carrying.uncoded].sum())
        return {"people": people, "share": self._share(people), "unread": len(self._shown(UNREAD, carrying))}

    def _shown(self, show: str, carrying: Carrying) -> list[int]:
        """Return the places of the answers that the reading list shows."""
        if show in (UNREAD, READ):
            wanted = show == READ
            places = np.flatnonzero(carrying.uncoded).tolist()
            return [place for place in places if (self.written.keys[place] in self.rules.decisions) == wanted]
        if show.startswith(ABOUT):
            names = [theme.name for theme in self.rules.themes]
            return np.flatnonzero(carrying.carried[:, names.index(show.removeprefix(ABOUT))]).tolist()
        return list(range(len(self.written.texts)))

    def listed(self, show: str, carrying: Carrying, start: int = 0) -> tuple[list[Listed], int]:
        """Return some lines of the reading list, and how many it has."""
        places = self._shown(show, carrying)
        lines = [
            Listed(self.written.keys[place], self.written.texts[place], int(self.written.people[place]))
            for place in places[start : start + ANSWERS_AT_ONCE]
        ]
        return lines, len(places)

    def answer(self, key: str) -> ReadAnswer | None:
        """Return one answer to be read, or nothing where nobody gives it any more."""
        place = self.written.places.get(key)
        if place is None:
            return None
        text = self.written.texts[place]
        found = find_themes([text], self.rules).carried[0]
        decision = self.rules.decisions.get(key, Decision())
        toggles = [
            Toggle(theme.name, _digit(at), bool(found[at]), theme.name in (*decision.carries, *decision.lacks))
            for at, theme in enumerate(self.rules.themes)
        ]
        pieces = marked_themes(text, self.rules)
        return ReadAnswer(key, pieces, int(self.written.people[place]), toggles, key in self.rules.decisions)

    def words(self, carrying: Carrying, length: int) -> tuple[Term, ...]:
        """Return the commonest words, or phrases of so many, of people's answers that carry no theme."""
        uncoded = np.flatnonzero(carrying.uncoded)
        written = of_answers(self.written.corpus, np.repeat(uncoded, self.written.people[uncoded]))
        language = self.rules.language or "en"
        settings = WordSettings(
            language=language,
            merge="stem" if self.rules.forms and language in STEMMED else "none",
            count="responses",
            phrase_length=length,
            max_terms=WORDS_AT_ONCE,
        )
        return count_in(written, settings).terms


def change(table: Table, user: User, wanted: dict[str, Any]) -> tuple[str, Arrival | None]:
    """Make a change of a table's themes; return what was done, and the background work where it takes long.

    What is decided about single answers is kept at once, and all that is decided in one go is one change of the
    recipe. Raises StepRefused with nothing changed.
    """
    if wanted.get("do") not in ("decide", "read", "unread"):
        if wanted.get("do") == "put" and not wanted.get("language"):
            desk = ThemeDesk(table, of=str(wanted.get("of") or ""), column=str(wanted.get("column") or ""))
            wanted = {**wanted, "language": desk.rules.language}
        return recipes.change(table, user, {**wanted, "action": "themes"})
    desk = ThemeDesk(table, of=str(wanted.get("of") or ""))
    answer = desk.answer(str(wanted.get("key") or ""))
    if answer is None:
        raise StepRefused("nobody gives this answer any more", remedy="load the page again")
    if wanted.get("do") == "decide":
        text = desk.written.texts[desk.written.places[answer.key]]
        names = [theme.name for theme in desk.rules.themes]
        by_words = find_themes([text], desk.rules.model_copy(update={"decisions": {}})).carried[0]
        held = {name for name, carries in zip(names, by_words, strict=True) if carries}
        wanted = {**wanted, "found": wanted.get("theme") in held}
    made, said = change_themes(table.read_recipe(), wanted)
    save_recipe(table, user, made, said, goes_on=CODED)
    return said, None


def language_of(written: Written) -> str:
    counts = dict(zip(written.corpus.words, written.corpus.counts().tolist(), strict=True))
    return guess_language(counts) or "en"


def _digit(place: int) -> str:
    return str(place + 1) if place < 9 else ""


def _bytes_of(written: Written) -> int:
    # Each letter stands about three times: in its text, in its key, in the words of the corpus.
    return 3 * sum(map(len, written.texts)) + 200 * len(written.texts)


_kept: Cache[tuple[str, str], Written] = Cache("answers read", 1 << 28, _bytes_of)


def _written(rows_digest: str, column: str) -> Written:
    """Return the different answers of a column, read once for all that is asked of them."""
    return _kept.get_or_make(
        (rows_digest, column),
        lambda: _different(frame_of(rows_digest)[column].drop_nulls().to_list() if column else []),
    )


def _different(texts: list[str]) -> Written:
    people: dict[str, int] = {}
    first: dict[str, str] = {}
    for text in texts:
        if not text.isspace() and text:
            key = answer_key(text)
            people[key] = people.get(key, 0) + 1
            first.setdefault(key, text)
    keys = sorted(people, key=lambda key: -people[key])
    shown = [first[key] for key in keys]
    counts = np.array([people[key] for key in keys], dtype=np.int64)
    return Written(shown, keys, counts, corpus_of(shown), {key: place for place, key in enumerate(keys)})
