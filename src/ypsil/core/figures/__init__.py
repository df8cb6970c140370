"""How numbers, amounts and periods are written: rounding, units, CLDR number and date formats."""

from ypsil.core.figures.in_words import share_in_words
from ypsil.core.figures.locales import DEFAULT_LOCALE, LOCALES, languages, locale_name, locale_of
from ypsil.core.figures.numbers import (
    POINTS,
    SHARE_UNITS,
    decimals_apart,
    decimals_for,
    decimals_kept,
    format_change,
    format_compact,
    format_number,
    format_share,
)
from ypsil.core.figures.parts import part_texts, whole_parts
from ypsil.core.figures.periods import GRAINS, Grain, days_after, format_period, period_before, year_before
from ypsil.core.figures.short import ShortForm, ShortText, in_full, one_form, scaled_by, short_form
from ypsil.core.figures.steps import tick_step

__all__ = [
    "DEFAULT_LOCALE",
    "GRAINS",
    "LOCALES",
    "POINTS",
    "SHARE_UNITS",
    "Grain",
    "ShortForm",
    "ShortText",
    "days_after",
    "decimals_apart",
    "decimals_for",
    "decimals_kept",
    "format_change",
    "format_compact",
    "format_number",
    "format_period",
    "format_share",
    "in_full",
    "languages",
    "locale_name",
    "locale_of",
    "one_form",
    "part_texts",
    "period_before",
    "scaled_by",
    "share_in_words",
    "short_form",
    "tick_step",
    "whole_parts",
    "year_before",
]
