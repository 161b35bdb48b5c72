"""Inverse questions, one subject a file; how one is declared: `question`."""

from . import settings, weights
from .question import Proposal, Question, ask, lines_text, questions, refuse_unknown

__all__ = [
    "Proposal",
    "Question",
    "ask",
    "lines_text",
    "questions",
    "refuse_unknown",
    "settings",
    "weights",
]
