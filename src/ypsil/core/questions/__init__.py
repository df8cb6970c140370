"""Questions: what a tile asks of a table, as data; the sentence it reads as, and what else could be asked.

The room describes; ``answers`` works out. Nothing here knows with what.
"""

from ypsil.core.questions.model import Measure, Order, Per, Question, parse_question
from ypsil.core.questions.sentence import sentence
from ypsil.core.tables.conditions import Filter

__all__ = ["Filter", "Measure", "Order", "Per", "Question", "parse_question", "sentence"]
