"""Telling a season: people, a clock that moves on, and short verbs over the real operations."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import replace
from datetime import UTC, date, datetime, timedelta
from random import Random
from typing import Any

import numpy as np
from sqlalchemy.orm import Session

from cabrio.core.car import Car, Given, Line, check_setup
from cabrio.core.graph.registry import number_named
from cabrio.core.knowledge import knowledge
from cabrio.core.record.readings import Reading, Taken
from cabrio.core.sheet.build import build
from cabrio.core.sheet.what_if import standing_car, try_lines
from cabrio.core.solve.preload import Bite
from cabrio.core.statics.equilibrium import Change, predict
from cabrio.operations import bench as benches
from cabrio.operations import logbook, people, readings, slips, watched
from cabrio.operations.actor import Actor
from cabrio.storage import cars
from cabrio.storage.documents import car_document, iso
from cabrio.storage.models import CarRow, EventRow

from .instruments import IMPERIAL, METRIC

TEAM = "Hollin Bank Motor Works"
PASSWORD = "only for the demo"
PEOPLE = (
    ("Ines Halloran", "ines@hollinbank.example", "engineer"),
    ("Teo Brandvold", "teo@hollinbank.example", "engineer"),
    ("Oke Sandiford", "oke@hollinbank.example", "crew"),
    ("Mara Quillfeather", "mara@hollinbank.example", "driver"),
    ("Pell Ormsby", "pell@hollinbank.example", "viewer"),
)
GOOD = {
    "driver_aboard": True,
    "bars_free": True,
    "pressures_set": True,
    "pads_zeroed": True,
    "settled": True,
}


class Season:
    """The team and the time; each verb moves the clock on by some minutes."""

    def __init__(self, db: Session, team: str) -> None:
        self.db = db
        self.now = datetime(2026, 9, 4, 8, 0, tzinfo=UTC)
        self.people: dict[str, Actor] = {}
        for name, email, role in PEOPLE:
            added = people.add_person(
                db, team=team, name=name, email=email, password=PASSWORD, role=role, new_team=True
            )
            self.people[name.split()[0].lower()] = people.actor_of(added)
        self.ines = self.people["ines"]
        self.oke = self.people["oke"]
        self.mara = self.people["mara"]
        self.teo = self.people["teo"]

    def at(self, day: date, hour: int, minute: int = 0) -> None:
        self.now = datetime(day.year, day.month, day.day, hour, minute, tzinfo=UTC)

    def tick(self, minutes: int = 7) -> datetime:
        self.now += timedelta(minutes=minutes)
        return self.now

    def add_car(self, car: Car, setup: Mapping[str, list[Any]]) -> CarTale:
        """The car on its first revision, its given numbers signed and dated."""
        at = iso(self.now)
        given = {
            name: Given(one.values, one.estimated, self.ines.name, at)
            for name, one in car.given.items()
        }
        for name, one in given.items():
            car = car.with_given(name, one)
        row = CarRow(
            team_id=self.ines.team_id, document=car_document(car), revision=1, added_at=self.now
        )
        self.db.add(row)
        self.db.flush()
        cars.add_revision(self.db, row, 1, check_setup(car, setup), self.ines.name, self.now)
        self.db.flush()
        return CarTale(self, row.id, imperial=car.profile == "imperial")

    def event(
        self, name: str, place: str, first: date, days: int, note: str = "", lap: str = ""
    ) -> EventRow:
        return logbook.add_event(
            self.db,
            self.ines,
            name=name,
            place=place,
            starts_on=first,
            ends_on=first + timedelta(days=days - 1),
            lap=lap,
            note=note,
        )


class CarTale:
    """One car's part of the season."""

    def __init__(self, season: Season, car_id: int, *, imperial: bool = False) -> None:
        self.season = season
        self.car_id = car_id
        self.session_id: int | None = None
        self.imperial = imperial
        self.chance = Random(f"{TEAM} {car_id}")
        self.stands: dict[str, list[float]] = {}
        self.bite: Bite | None = None
        """What a flat does to this car's rear bite, where its links can be preloaded."""

    @property
    def db(self) -> Session:
        return self.season.db

    def read(
        self,
        kind: str,
        *rows: list[float],
        by: Actor | None = None,
        fuel: float | None = None,
        also: Mapping[str, list[float]] | None = None,
        note: str = "",
        taken: Taken | None = None,
        **conditions: bool,
    ) -> int:
        """A reading in SI; conditions hold unless said otherwise. `also` are further numbers of it."""
        names = knowledge().readings[kind].numbers
        repeats = {names[0]: [list(row) for row in rows]} if rows else {}
        repeats |= {name: [list(row)] for name, row in (also or {}).items()}
        if fuel is not None:
            repeats["fuel_mass"] = [[fuel]]
        if not repeats:
            repeats = self._found_as_set(names)
        found = readings.take(
            self.db,
            by or self.season.oke,
            self.car_id,
            self.season.tick(),
            kind=kind,
            repeats=repeats,
            conditions=GOOD | conditions,
            note=note,
            taken=taken or Taken(),
            confirmed=True,
        )
        return found.id

    def _found_as_set(self, names: Sequence[str]) -> dict[str, list[list[float]]]:
        """What a check finds where everything is as it was set: nothing where its numbers check none."""
        setup = benches.load(self.db, self.season.ines, self.car_id).current.setup
        rows = {name: setup.get(number_named(name).checks) for name in names}
        return {name: [row] for name, row in rows.items() if row and None not in row}

    def stood(self, **true: list[float]) -> None:
        """How the car truly stands, by reading: what its instruments say follows from here on."""
        self.stands = {kind: list(row) for kind, row in true.items()}

    def measure(
        self,
        kind: str,
        *,
        repeats: int = 1,
        upset: list[float] | None = None,
        fuel: float | None = None,
        note: str = "",
        **conditions: bool,
    ) -> int:
        """Pads or heights as the instrument says them; `upset` is what falsifies them [SI]."""
        instrument = (IMPERIAL if self.imperial else METRIC)[kind]
        true = [a + b for a, b in zip(self.stands[kind], upset or [0.0] * 4, strict=True)]
        rows = [instrument.reads(true, self.chance) for _ in range(repeats)]
        taken = Taken(instrument.label)
        return self.read(
            kind, *rows, by=None, fuel=fuel, also=None, note=note, taken=taken, **conditions
        )

    def carried_by_bars(self, front: float) -> list[float]:
        """What a connected front bar puts on the pads while it is not free [kg].

        `front` is the left less right wheel travel at which it would be free [m].
        """
        bench = benches.load(self.db, self.season.ines, self.car_id)
        pads = Reading(
            0, "pads", 1, "", iso(self.season.now), {"pad_mass": [[*self.stands["pads"]]]}, GOOD
        )
        sheet = build(bench.car, bench.current.setup, [*bench.readings, pads], bench.revisions)
        standing, bars = standing_car(sheet), sheet.worked.values["bar_wheel_rate"]
        assert standing is not None
        with_bars = replace(standing, bar_rates=bars, bars_connected=True)
        found = predict(with_bars, Change(bar_wheel_shifts=np.array([front, 0.0])))
        return [float(pad) for pad in found.pads - standing.pads]

    def _moved(self, lines: Iterable[Line]) -> None:
        """The car stands anew after lines: by as much as the standing car says."""
        sheet = benches.load(self.db, self.season.ines, self.car_id).sheet()
        trial = try_lines(sheet, lines, bite=self.bite)
        for name, kind in (("pad_mass", "pads"), ("ride_height", "heights")):
            after = trial.value(name)
            if name in trial.predicted and after is not None and kind in self.stands:
                by = after - sheet.worked.values[name]
                self.stands[kind] = [
                    a + float(b) for a, b in zip(self.stands[kind], by, strict=True)
                ]

    def withdraw(self, reading: int, why: str) -> None:
        readings.withdraw(
            self.db, self.season.oke, self.car_id, reading, self.season.tick(), why=why
        )

    def session(
        self,
        event: EventRow,
        name: str,
        kind: str,
        day: date,
        hour: int,
        surface: str,
        air: float,
        track: float | None = None,
        note: str = "",
    ) -> None:
        """A session; the clock jumps to its start. Temperatures in °C."""
        self.season.at(day, hour)
        row = logbook.add_session(
            self.db,
            self.season.oke,
            self.car_id,
            event_id=event.id,
            name=name,
            kind=kind,
            starts_at=self.season.now,
            surface=surface,
            air=f"{air} °C",
            track=None if track is None else f"{track} °C",
            note=note,
        )
        self.session_id = row.id

    def run(
        self,
        laps: int | None,
        best: str | float | None,
        confidence: int | None = None,
        tyres: str = "",
        note: str = "",
        times: Mapping[str, str] | None = None,
        released: str = "",
        floor: Mapping[str, str] | None = None,
        **words: str,
    ) -> None:
        """A run of the session in hand; words by phase, underscores for spaces."""
        assert self.session_id is not None
        row = logbook.add_run(
            self.db,
            self.season.ines if released else self.season.oke,
            self.car_id,
            self.session_id,
            self.season.tick(25),
            driver=self.season.mara.name,
            laps=laps,
            best_time=best,
            times=times,
            released_why=released,
            tyres=tyres,
            note=note,
            floor=floor,
        )
        spoken = [
            {
                "phase": phase.replace("_", " ")
                .replace("mid corner", "mid-corner")
                .replace("turn in", "turn-in")
                .replace("mid drift", "mid-drift")
                .replace("throttle on", "throttle-on"),
                "text": text,
            }
            for phase, text in words.items()
        ]
        if spoken or confidence:
            logbook.speak(
                self.db,
                self.season.mara,
                self.car_id,
                row.id,
                row.at,
                words=spoken,
                confidence=confidence,
            )

    def book(
        self,
        changes: list[tuple[str, str, Any]],
        why: str,
        expectation: str = "",
        by: Actor | None = None,
    ) -> int:
        who = by or self.season.ines
        _, found = slips.write(
            self.db,
            who,
            self.car_id,
            self.season.tick(),
            version=0,
            changes=changes,
            why=why,
            expectation=expectation,
            session_id=self.session_id,
        )
        self._moved(found.lines)
        number = slips.book(self.db, who, self.car_id, self.season.tick(4), version=found.version)
        self.db.expire_all()
        return number

    def back_out(self, revision: int) -> int:
        who = self.season.ines
        slips.back_out(self.db, who, self.car_id, revision, self.season.tick())
        self._moved(slips.draft(self.db, who, benches.load(self.db, who, self.car_id)).lines)
        number = slips.book(self.db, self.season.ines, self.car_id, self.season.tick(2), version=1)
        self.db.expire_all()
        return number

    def watch(self, kind: str, words: str, *, pulled: bool = False, **typed: Any) -> None:
        """Watch an issue, a torque, a class limit or a service; `pulled` says it was done at once."""
        db, actor, now = self.season.db, self.season.ines, self.season.now
        row = watched.add(db, actor, self.car_id, now, kind=kind, words=words, typed=typed)
        if pulled:
            watched.done(db, actor, self.car_id, row.id, now)

    def verdict(self, revision: int, outcome: str, decision: str, words: str = "") -> None:
        logbook.judge(
            self.db,
            self.season.mara,
            self.car_id,
            revision,
            self.season.tick(),
            outcome=outcome,
            decision=decision,
            words=words,
        )


def given(*values: float, estimated: bool = False) -> Given:
    return Given(tuple(values), estimated)


def both(front: float, rear: float, *, estimated: bool = False) -> Given:
    """A corner number that is alike left and right."""
    return Given((front, front, rear, rear), estimated)
