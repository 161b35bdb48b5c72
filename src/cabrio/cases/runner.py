"""Reads case files, asks the core, compares, and says what does not hold."""

from __future__ import annotations

import json
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from cabrio.core.errors import CoreError, Impossible

from .topics import TOPICS
from .units import as_expected, in_si, unit_of


@dataclass(frozen=True)
class Outcome:
    """One case that was run: what did not hold, nothing where it passed."""

    file: str
    topic: str
    name: str
    failures: tuple[str, ...]


def read_folder(folder: Path) -> Iterator[tuple[str, str, dict[str, Any]]]:
    """(file, topic, case) of every *.json in a folder. Raises Impossible for a file that is no cases."""
    paths = sorted(folder.glob("*.json"))
    if not paths:
        raise Impossible(f"{folder} holds no case files (*.json).", value=str(folder))
    for path in paths:
        try:
            document = json.loads(path.read_text("utf-8"))
            topic, cases = document["topic"], document["cases"]
        except (ValueError, KeyError, TypeError) as problem:
            raise Impossible(
                f"{path.name} is no case file: it needs a topic and cases ({problem}).",
                value=path.name,
            ) from problem
        for case in cases:
            yield path.name, topic, case


def run_folder(folder: Path, tell: Callable[[Outcome], None] | None = None) -> list[Outcome]:
    """Every case of a folder. `tell` hears of each as it is done."""
    outcomes = []
    for file, topic, case in read_folder(folder):
        outcome = Outcome(file, topic, str(case.get("name", "?")), tuple(failures(topic, case)))
        outcomes.append(outcome)
        if tell is not None:
            tell(outcome)
    return outcomes


def failures(topic: str, case: dict[str, Any]) -> list[str]:
    """What does not hold in a case, each with what was got and expected; empty where it passes."""
    ask = TOPICS.get(topic)
    if ask is None:
        return [f"no topic is called {topic}: there are {', '.join(sorted(TOPICS))}"]
    try:
        got = ask(in_si(case["given"]))
    except CoreError as refusal:
        if "expect_error" in case:
            return []
        return [f"got a refusal: {refusal.sentence}, expected an answer"]
    except (KeyError, TypeError, ValueError) as problem:
        return [f"the case cannot be read: {type(problem).__name__} {problem}"]
    if "expect_error" in case:
        return [f"got an answer, expected a refusal: {case['expect_error']}"]
    rel, ab = float(case.get("rel_tol", 1e-6)), float(case.get("abs_tol", 1e-9))
    found = []
    for key, expected in case["expect"].items():
        name, _, _ = unit_of(key)
        if name not in got:
            found.append(f"{key}: got nothing, expected {expected}")
            continue
        found += _unlike(key, as_expected(key, got[name]), expected, rel, ab)
    return found


def _unlike(key: str, got: Any, expected: Any, rel: float, ab: float) -> list[str]:
    """Where an answer differs, element by element and at any depth."""
    if isinstance(expected, dict):
        if not isinstance(got, dict):
            return [f"{key}: got {got}, expected {expected}"]
        return [
            w for k, e in expected.items() for w in _unlike(f"{key}.{k}", got.get(k), e, rel, ab)
        ]
    if isinstance(expected, list):
        if not isinstance(got, list | tuple) or len(got) != len(expected):
            return [f"{key}: got {got}, expected {expected}"]
        pairs = enumerate(zip(got, expected, strict=True))
        return [w for i, (g, e) in pairs for w in _unlike(f"{key}[{i}]", g, e, rel, ab)]
    numeric = isinstance(expected, int | float) and not isinstance(expected, bool)
    if numeric and isinstance(got, int | float) and not isinstance(got, bool):
        near = abs(got - expected) <= ab + rel * abs(expected)
    else:
        near = type(got) is type(expected) and got == expected
    return [] if near else [f"{key}: got {got}, expected {expected}"]
