"""Worked cases in open files, run against the public core: keys in, answers out, no physics here."""

from .runner import Outcome, failures, read_folder, run_folder

__all__ = ["Outcome", "failures", "read_folder", "run_folder"]
