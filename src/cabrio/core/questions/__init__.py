"""Inverse questions, one subject a file; how one is declared: `question`."""

from . import settings, weights
from .question import Proposal, Question, ask, questions, refuse_unknown, said

__all__ = [
    "Proposal",
    "Question",
    "ask",
    "questions",
    "refuse_unknown",
    "said",
    "settings",
    "weights",
]
