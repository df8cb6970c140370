"""What is known of surveys: scales, kinds of question, the figures each calls for, intervals, cross-tables."""

from ypsil.core.survey.crosstab import CrossTable, cross_table
from ypsil.core.survey.figures import SurveyFigure, survey_figures
from ypsil.core.survey.intervals import (
    difference_interval,
    effective_base,
    give_or_take,
    margin_of_error,
    mean_interval,
    wilson_interval,
)
from ypsil.core.survey.recognise import SurveyItem, survey_items

__all__ = [
    "CrossTable",
    "SurveyFigure",
    "SurveyItem",
    "cross_table",
    "difference_interval",
    "effective_base",
    "give_or_take",
    "margin_of_error",
    "mean_interval",
    "survey_figures",
    "survey_items",
    "wilson_interval",
]
