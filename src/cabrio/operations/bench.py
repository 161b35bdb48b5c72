"""A car with everything the bench shows: one load, used by every operation on it."""

from __future__ import annotations

from dataclasses import dataclass

from sqlalchemy.orm import Session

from cabrio.core.car import Car
from cabrio.core.catalog.part_kinds import part_kinds
from cabrio.core.graph.registry import number_named
from cabrio.core.record.readings import Reading
from cabrio.core.sheet.build import Revision, Sheet, build
from cabrio.core.sheet.ledger import learned_perches, sheet_at
from cabrio.storage import cars
from cabrio.storage.models import CarRow

from .actor import Actor
from .errors import NotFound


@dataclass
class Bench:
    """A car with its record, as every operation loads it; its sheet is worked once."""

    row: CarRow
    record: cars.Record

    @property
    def car(self) -> Car:
        return self.record.car

    @property
    def revisions(self) -> list[Revision]:
        return self.record.revisions

    @property
    def readings(self) -> list[Reading]:
        return self.record.readings

    @property
    def current(self) -> Revision:
        return self.at(self.row.revision)

    def at(self, number: int) -> Revision:
        """Raises NotFound for a revision this car does not have."""
        # they are numbered without gaps, so it is nearly always in its place
        here = self.revisions[number - 1 : number] if number > 0 else []
        for revision in here if here and here[0].number == number else self.revisions:
            if revision.number == number:
                return revision
        raise NotFound(f"{self.car.name} has no revision {number}.")

    def last_worn(self, kind: str, code: str) -> int | None:
        """The last revision that wore a part; looked up once for all parts."""
        if not self.record.last_worn:
            kinds = part_kinds()
            self.record.last_worn.update(
                {
                    (name, worn): revision.number
                    for revision in self.revisions
                    for name, places in revision.setup.items()
                    if name in kinds
                    for worn in places
                    if worn is not None
                }
            )
        return self.record.last_worn.get((kind, code))

    def last_touched(self) -> dict[str, int]:
        """The last revision that changed anything of each system; looked up once."""
        if not self.record.last_touched:
            self.record.last_touched.update(
                {
                    number_named(line.name).system or "other": revision.number
                    for revision in self.revisions
                    for line in revision.lines
                }
            )
        return self.record.last_touched

    def sheet(self) -> Sheet:
        return self.booked(self.row.revision)

    def booked(self, number: int) -> Sheet:
        """The sheet of a revision with all that is known now."""
        sheets = self.record.sheets
        if number not in sheets:
            car, setup = self.car.at(number), self.at(number).setup
            found = build(car, setup, self.readings, self.revisions)
            if number == self.row.revision:
                learned = learned_perches(self.car, self.readings, self.revisions)
                found.perches = learned if learned and learned.usable else None
            sheets[number] = found
        return sheets[number]

    def sheet_at(self, number: int) -> Sheet:
        """The sheet as it stood on a revision: only what was read and booked by then."""
        self.at(number)
        return sheet_at(self.car, number, self.readings, self.revisions)


def load(db: Session, actor: Actor, car_id: int, *, lock: bool = False) -> Bench:
    """The car of this actor's team, or NotFound. `lock` holds its row until the transaction ends."""
    row = cars.find_car(db, actor.team_id, car_id, lock=lock)
    if row is None:
        raise NotFound("There is no such car in your team.")
    return Bench(row, cars.record_of(db, row))
