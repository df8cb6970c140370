"""A first draft of a report: what is worth showing of some tables, said in sentences, laid out on a page."""

from ypsil.core.draft.choosing import Chooser, instead_of
from ypsil.core.draft.joining import Join, Joined, certain_join, joined
from ypsil.core.draft.page import Draft, LeftOut, draft
from ypsil.core.draft.subjects import Subject

__all__ = ["Chooser", "Draft", "Join", "Joined", "LeftOut", "Subject", "certain_join", "draft", "instead_of", "joined"]
