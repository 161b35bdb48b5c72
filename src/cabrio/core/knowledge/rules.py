"""Rule cards: what a driver says in which phases, and the cures that are tried on the car."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any, Literal

from ..catalog.places import places_of
from ..catalog.tables import row_of, rows
from ..graph.registry import numbers
from .references import FeltName, NumberName, PhaseName, SchoolName, SettingName, SymptomName

DRIVEN = ("front", "rear", "all")
Axles = Literal["front", "rear", "all"]
Direction = Literal["softer", "stiffer", "more", "less", "anti_squat-up", "anti_squat-down", "zero"]
Surface = Literal["", "poor", "good"]
Mechanism = Literal["", "LS", "CG", "PR", "TD", "DB", "YM", "AS", "CP", "EN", "RS", "ST"]
"""Load share, camber to the ground, pitch and air, transient damping, drive or brake force, yaw moment,
timing by the links, contact patch, energy, resonance, standing load; empty where nobody said yet."""


@dataclass(frozen=True)
class Shows:
    """A figure whose move shows the size of a cure; with a direction where the cure lies that way."""

    figure: FeltName
    direction: Literal["", "up", "down"] = ""


@dataclass(frozen=True)
class Only:
    """The cars that a cure is for: those whose figure is above, or below, a value [SI]."""

    figure: NumberName
    above: float | None = None
    below: float | None = None

    def holds(self, value: float) -> bool:
        return (self.above is None or value > self.above) and (
            self.below is None or value < self.below
        )


@dataclass(frozen=True)
class Cure:
    """One change of a number at a place, with its reason and its costs.

    `needs` is a number without which nothing can be told of it. Past the target range of the figure that
    `because` names this cure is the one for it; past that of `against` it is none.
    """

    number: SettingName
    place: str
    direction: Direction
    reason: str
    costs: str
    shows: tuple[Shows, ...] = ()
    steps: int = 1
    school: SchoolName = ""
    mechanism: Mechanism = ""
    only: Only | None = None
    needs: NumberName = ""
    because: NumberName = ""
    against: NumberName = ""

    @property
    def figures(self) -> tuple[str, ...]:
        return tuple(shown_figure.figure for shown_figure in self.shows)

    @property
    def target_directions(self) -> dict[str, int]:
        """Which way a figure has to go: +1 or −1, by name."""
        return {
            shown_figure.figure: 1 if shown_figure.direction == "up" else -1
            for shown_figure in self.shows
            if shown_figure.direction
        }

    @property
    def change(self) -> str:
        """The change in one line, for messages."""
        return f"{self.number} {self.place} {self.direction}"

    @property
    def places(self) -> tuple[str, ...]:
        """The places the change touches: left and right alike; none where the number has no such place."""
        return places_of(self.place, numbers()[self.number].shape)


@dataclass(frozen=True)
class Card:
    """A symptom in some phases and its cures in the order to try.

    `driven` are the axles it is for, none for all; `surface` is where it suits better, `only_on` those it is
    for at all ("" where nobody said). `check` is what to look at first, `do_not` what makes it worse.
    """

    symptom: SymptomName
    phases: tuple[PhaseName, ...]
    cure: tuple[Cure, ...]
    driven: tuple[Axles, ...] = ()
    surface: Surface = ""
    only_on: tuple[Surface, ...] = ()
    check: tuple[str, ...] = ()
    do_not: tuple[str, ...] = ()


@dataclass(frozen=True)
class Rule(Cure):
    """One cure of a card, with the card's own conditions beside it."""

    symptom: SymptomName = field(default="", kw_only=True)
    phases: tuple[PhaseName, ...] = field(default=(), kw_only=True)
    driven: tuple[Axles, ...] = field(default=(), kw_only=True)
    surface: Surface = field(default="", kw_only=True)
    only_on: tuple[Surface, ...] = field(default=(), kw_only=True)


def read_cards() -> tuple[Card, ...]:
    """The cards of rules.toml, not yet checked. Raises ValueError for a key that no row has."""
    return tuple(map(_card, rows("cabrio.core.knowledge", "rules", "card")))


def _card(raw: dict[str, Any]) -> Card:
    where = f"rules.toml, a card of {raw.get('symptom')}"
    cures = [_cure(one, f"{where}: {one.get('number')}") for one in raw.get("cure", ())]
    made: Card = row_of(Card, raw | {"cure": cures}, where)
    return made


def _cure(raw: dict[str, Any], where: str) -> Cure:
    shows = [row_of(Shows, one, f"{where}, shows") for one in raw.get("shows", ())]
    only = row_of(Only, raw["only"], f"{where}, only") if "only" in raw else None
    made: Cure = row_of(Cure, raw | {"shows": shows, "only": only}, where)
    return made


def rules_of(cards: tuple[Card, ...]) -> tuple[Rule, ...]:
    """Every cure by itself, in the order of the cards."""
    return tuple(
        Rule(
            **vars(cure),
            symptom=card.symptom,
            phases=card.phases,
            driven=card.driven,
            surface=card.surface,
            only_on=card.only_on,
        )
        for card in cards
        for cure in card.cure
    )
