"""Who acts, and what each role may do."""

from __future__ import annotations

from dataclasses import dataclass

from .errors import NotAllowed

ABILITIES: dict[str, frozenset[str]] = {
    "engineer": frozenset(
        {"look", "speak", "judge", "read", "log", "draft", "give", "import", "release", "inspect"}
    ),
    "crew": frozenset({"look", "read", "log"}),
    "driver": frozenset({"look", "speak", "judge"}),
    "viewer": frozenset({"look"}),
}
"""look: see · speak: driver's words · judge: verdicts · read: take readings · log: events, sessions
and runs · draft: slips and booking · give: car data and inventory · import: car files ·
release: let a car run that is not ready · inspect: end a sign of damage."""

PEOPLE = "people"
"""Who belongs to the team, and what was done in it: an owner's, whatever the role."""

REFUSALS = {
    "draft": "change or book a slip",
    "give": "change the car's data",
    "read": "take a reading",
    "log": "write events and sessions",
    "speak": "write a driver's words",
    "judge": "give a verdict",
    "import": "import a car",
    "release": "let a car out that is not ready",
    "inspect": "decide on a sign of damage",
}


@dataclass(frozen=True)
class Actor:
    """A signed-in person."""

    person_id: int
    team_id: int
    name: str
    role: str
    owner: bool = False

    def must(self, ability: str) -> None:
        """Raise NotAllowed unless this person has the ability."""
        if ability == PEOPLE:
            if not self.owner:
                raise NotAllowed(
                    f"As {self.role} you cannot say who belongs to the team: ask one of its owners."
                )
            return
        if ability not in ABILITIES.get(self.role, frozenset()):
            raise NotAllowed(
                f"As {self.role} you cannot {REFUSALS.get(ability, ability)}: "
                "ask an engineer of the team."
            )

    def abilities(self) -> list[str]:
        return sorted(ABILITIES.get(self.role, frozenset()) | ({PEOPLE} if self.owner else set()))
