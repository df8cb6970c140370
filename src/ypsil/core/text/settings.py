"""How text becomes terms, as settings."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, ConfigDict, Field

Case = Literal["common", "written", "lower", "upper", "title"]


class WordSettings(BaseModel):
    """How text becomes terms."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    language: str | None = Field(
        None, description="language of the stop words and of merging, ISO 639-1; left out: guessed from the text"
    )
    phrase_length: int = Field(1, ge=1, le=5, description="words in a term")
    min_count: int = Field(1, ge=1, description="rarer terms are left out")
    count: Literal["occurrences", "responses"] = "occurrences"
    merge: Literal["none", "stem"] = Field("none", description="count book and books as one")
    keep_stop_words: bool = False
    leave_out: tuple[str, ...] = Field((), description="own words to leave out")
    keep: tuple[str, ...] = Field((), description="words to count though they are stop words, numbers or short")
    numbers: bool = Field(False, description="count numbers too")
    shortest: int = Field(2, ge=1, le=20, description="letters of the shortest word that is counted")
    case: Case = Field(
        "common",
        description="how terms are written: common is as most people wrote them; written counts those apart that are "
        "capitalised differently",
    )
    together: tuple[str, ...] = Field((), description="phrases to be counted as one word")
    merges: dict[str, str] = Field({}, description="terms to be counted as another: {'book bus': 'mobile library'}")
    find_phrases: Literal["no", "sure", "many"] = Field(
        "no", description="keep words together that stand together far more often than by chance"
    )
    max_terms: int | None = Field(None, ge=1, description="at most so many terms")
