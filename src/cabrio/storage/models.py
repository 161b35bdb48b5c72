"""The tables. Revisions and readings are append-only; a database trigger holds revisions to it."""

from __future__ import annotations

from datetime import date, datetime
from typing import Any, ClassVar
from uuid import UUID

from sqlalchemy import (
    BigInteger,
    CheckConstraint,
    ForeignKey,
    Identity,
    Index,
    MetaData,
    UniqueConstraint,
    false,
    func,
    text,
)
from sqlalchemy.dialects.postgresql import JSONB, TIMESTAMP
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column, relationship

NAMES = {
    "ix": "ix_%(table_name)s_%(column_0_N_name)s",
    "uq": "uq_%(table_name)s_%(column_0_N_name)s",
    "ck": "ck_%(table_name)s_%(constraint_name)s",
    "fk": "fk_%(table_name)s_%(column_0_name)s",
    "pk": "pk_%(table_name)s",
}
ROLES = ("engineer", "crew", "driver", "viewer")


class Base(DeclarativeBase):
    """What the tables have in common: names of constraints, and how Python's types are kept."""

    metadata = MetaData(naming_convention=NAMES)
    type_annotation_map: ClassVar[dict[Any, Any]] = {
        datetime: TIMESTAMP(timezone=True),
        dict[str, Any]: JSONB,
        list[Any]: JSONB,
    }


class Team(Base):
    """A team: its people see its cars and nobody else's."""

    __tablename__ = "team"
    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(unique=True)


class Person(Base):
    """Somebody who may sign in, of one team and in one role."""

    __tablename__ = "person"
    __table_args__ = (CheckConstraint(f"role IN {ROLES}", name="role_known"),)
    id: Mapped[int] = mapped_column(primary_key=True)
    team_id: Mapped[int] = mapped_column(ForeignKey("team.id"), index=True)
    name: Mapped[str]
    email: Mapped[str] = mapped_column(unique=True)
    password_hash: Mapped[str]
    """Empty until the person has chosen one."""
    role: Mapped[str]
    owner: Mapped[bool] = mapped_column(server_default=false())
    """Whether this person says who belongs to the team."""
    disabled_at: Mapped[datetime | None]
    team: Mapped[Team] = relationship()


class SignIn(Base):
    """A browser that is signed in. It holds the key; here is only its hash, so that no backup lets anyone in."""

    __tablename__ = "sign_in"
    id: Mapped[int] = mapped_column(primary_key=True)
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id"), index=True)
    key_hash: Mapped[str] = mapped_column(unique=True)
    machine: Mapped[str]
    browser: Mapped[str]
    began_at: Mapped[datetime]
    seen_at: Mapped[datetime]
    ended_at: Mapped[datetime | None]
    person: Mapped[Person] = relationship()


class Invitation(Base):
    """A link by which a person chooses a password, once; only the hash of its key is kept."""

    __tablename__ = "invitation"
    id: Mapped[int] = mapped_column(primary_key=True)
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id"), index=True)
    key_hash: Mapped[str] = mapped_column(unique=True)
    by: Mapped[str]
    at: Mapped[datetime]
    used_at: Mapped[datetime | None]
    person: Mapped[Person] = relationship()


class SignInTries(Base):
    """Tries to sign in since a moment, of an address, a machine, or both; every worker counts the same ones."""

    __tablename__ = "sign_in_tries"
    of: Mapped[str] = mapped_column(primary_key=True)
    began_at: Mapped[datetime]
    count: Mapped[int]


class AuditRow(Base):
    """One thing that was done: written by the database itself at the end of every transaction, in a chain.

    `hash` is of the entry and the hash before it, so that nothing in between can be changed unseen.
    """

    __tablename__ = "audit"
    __table_args__ = (Index("ix_audit_team_id_id", "team_id", "id"),)
    id: Mapped[int] = mapped_column(BigInteger, Identity(always=True), primary_key=True)
    team_id: Mapped[int | None]
    car_id: Mapped[int | None]
    person_id: Mapped[int | None]
    entry: Mapped[dict[str, Any]]
    hash: Mapped[str]


class CarRow(Base):
    """A car: its document (given numbers, inventory, adjusters) and the revision on it.

    The database gives `stamp` anew with every write to the car, its revisions or its readings.
    """

    __tablename__ = "car"
    id: Mapped[int] = mapped_column(primary_key=True)
    team_id: Mapped[int] = mapped_column(ForeignKey("team.id"), index=True)
    document: Mapped[dict[str, Any]] = mapped_column(deferred=True)
    stamp: Mapped[UUID] = mapped_column(server_default=func.gen_random_uuid())
    revision: Mapped[int]
    added_at: Mapped[datetime]
    imported_by: Mapped[str | None]
    """Who brought it in by a car file: up to that revision its record is as the file tells."""
    imported_at: Mapped[datetime | None]
    imported_revision: Mapped[int | None]
    erased_at: Mapped[datetime | None]
    """When a name was last taken out of its record."""


class RevisionRow(Base):
    """A booked setup. Its rows are never changed."""

    __tablename__ = "revision"
    __table_args__ = (
        UniqueConstraint("car_id", "number"),
        CheckConstraint("number >= 1", name="number_from_one"),
        Index("ix_revision_car_id_booked_at", "car_id", "booked_at"),
    )
    id: Mapped[int] = mapped_column(primary_key=True)
    car_id: Mapped[int] = mapped_column(ForeignKey("car.id"))
    number: Mapped[int]
    setup: Mapped[dict[str, Any]]
    content_hash: Mapped[str]
    booked_by: Mapped[str]
    booked_at: Mapped[datetime]


class SlipRow(Base):
    """The draft between two revisions; one open draft a person and car. Booked ones are history."""

    __tablename__ = "slip"
    __table_args__ = (
        CheckConstraint("state IN ('draft', 'parked', 'booked')", name="state_known"),
        CheckConstraint("(state = 'booked') = (booked_as IS NOT NULL)", name="booked_as_if_booked"),
        CheckConstraint("state = 'booked' OR author_id IS NOT NULL", name="draft_has_author"),
        Index(
            "uq_slip_open_draft",
            "car_id",
            "author_id",
            unique=True,
            postgresql_where=text("state = 'draft'"),
        ),
        UniqueConstraint("car_id", "booked_as"),
    )
    id: Mapped[int] = mapped_column(primary_key=True)
    car_id: Mapped[int] = mapped_column(ForeignKey("car.id"))
    author_id: Mapped[int | None] = mapped_column(ForeignKey("person.id"))
    author: Mapped[str]
    state: Mapped[str] = mapped_column(default="draft")
    base: Mapped[int]
    booked_as: Mapped[int | None]
    why: Mapped[str] = mapped_column(default="")
    expectation: Mapped[str] = mapped_column(default="")
    session_id: Mapped[int | None] = mapped_column(ForeignKey("session.id"))
    jobs: Mapped[list[Any]] = mapped_column(default=list)
    version: Mapped[int] = mapped_column(default=1)
    at: Mapped[datetime]
    lines: Mapped[list[SlipLineRow]] = relationship(
        order_by="SlipLineRow.position", cascade="all, delete-orphan", lazy="selectin"
    )


class SlipLineRow(Base):
    """One line of a slip, a row of its own so that the log can be searched by what changed."""

    __tablename__ = "slip_line"
    __table_args__ = (
        UniqueConstraint("slip_id", "name", "place", deferrable=True, initially="DEFERRED"),
        Index("ix_slip_line_name", "name"),
    )
    id: Mapped[int] = mapped_column(primary_key=True)
    slip_id: Mapped[int] = mapped_column(ForeignKey("slip.id", ondelete="CASCADE"))
    position: Mapped[int]
    name: Mapped[str]
    place: Mapped[str]
    old: Mapped[Any] = mapped_column(JSONB)
    new: Mapped[Any] = mapped_column(JSONB)


class VerdictRow(Base):
    """What a booked slip turned out to be. Append-only: the newest counts."""

    __tablename__ = "verdict"
    __table_args__ = (
        CheckConstraint(
            "outcome IN ('better', 'same', 'worse', 'not tested')", name="outcome_known"
        ),
        CheckConstraint("decision IN ('keep', 'back out', 'open')", name="decision_known"),
    )
    id: Mapped[int] = mapped_column(primary_key=True)
    slip_id: Mapped[int] = mapped_column(ForeignKey("slip.id"), index=True)
    outcome: Mapped[str]
    decision: Mapped[str]
    words: Mapped[str] = mapped_column(default="")
    by: Mapped[str]
    at: Mapped[datetime]


class ReadingRow(Base):
    """A reading against the revision that was on the car. It is withdrawn, never changed."""

    __tablename__ = "reading"
    __table_args__ = (
        CheckConstraint(
            "(withdrawn_at IS NULL) = (withdrawn_why IS NULL)", name="withdrawn_with_reason"
        ),
        Index("ix_reading_car_id_kind", "car_id", "kind"),
    )
    id: Mapped[int] = mapped_column(primary_key=True)
    car_id: Mapped[int] = mapped_column(ForeignKey("car.id"))
    revision: Mapped[int]
    kind: Mapped[str]
    settles: Mapped[dict[str, Any]]
    conditions: Mapped[dict[str, Any]]
    taken: Mapped[dict[str, Any]] = mapped_column(default=dict)
    note: Mapped[str] = mapped_column(default="")
    taken_by: Mapped[str]
    taken_at: Mapped[datetime]
    withdrawn_by: Mapped[str | None]
    withdrawn_at: Mapped[datetime | None]
    withdrawn_why: Mapped[str | None]


class EventRow(Base):
    """Days at one place, of a team."""

    __tablename__ = "event"
    __table_args__ = (
        CheckConstraint("ends_on >= starts_on", name="ends_after_start"),
        CheckConstraint("lap_length > 0", name="lap_above_zero"),
    )
    id: Mapped[int] = mapped_column(primary_key=True)
    team_id: Mapped[int] = mapped_column(ForeignKey("team.id"), index=True)
    name: Mapped[str]
    place: Mapped[str] = mapped_column(default="")
    starts_on: Mapped[date]
    ends_on: Mapped[date]
    lap_length: Mapped[float | None]
    """Of its track [m]."""
    note: Mapped[str] = mapped_column(default="")


class SessionRow(Base):
    """A session of one car within an event."""

    __tablename__ = "session"
    __table_args__ = (Index("ix_session_car_id_starts_at", "car_id", "starts_at"),)
    id: Mapped[int] = mapped_column(primary_key=True)
    event_id: Mapped[int] = mapped_column(ForeignKey("event.id"), index=True)
    car_id: Mapped[int] = mapped_column(ForeignKey("car.id"))
    name: Mapped[str]
    kind: Mapped[str]
    starts_at: Mapped[datetime]
    surface: Mapped[str] = mapped_column(default="")
    air_temperature: Mapped[float | None]
    track_temperature: Mapped[float | None]
    note: Mapped[str] = mapped_column(default="")
    aside_at: Mapped[datetime | None]
    event: Mapped[EventRow] = relationship()
    runs: Mapped[list[RunRow]] = relationship(
        order_by="RunRow.number",
        primaryjoin="and_(RunRow.session_id == SessionRow.id, RunRow.aside_at.is_(None))",
        lazy="selectin",
    )
    """Those that were not set aside."""


class RunRow(Base):
    """One time out, on one revision, with the driver's words by phase."""

    __tablename__ = "run"
    __table_args__ = (
        UniqueConstraint("session_id", "number"),
        CheckConstraint("confidence BETWEEN 1 AND 5", name="confidence_one_to_five"),
        CheckConstraint("laps >= 0", name="laps_not_negative"),
        CheckConstraint("best_time > 0", name="time_above_zero"),
        Index("ix_run_car_id_at", "car_id", "at"),
    )
    id: Mapped[int] = mapped_column(primary_key=True)
    session_id: Mapped[int] = mapped_column(ForeignKey("session.id"), index=True)
    car_id: Mapped[int] = mapped_column(ForeignKey("car.id"))
    """Of its session: the last runs of a car are asked for at every look."""
    number: Mapped[int]
    revision: Mapped[int]
    driver: Mapped[str] = mapped_column(default="")
    laps: Mapped[int | None]
    best_time: Mapped[float | None]
    times: Mapped[dict[str, Any]] = mapped_column(default=dict)
    not_ready: Mapped[list[Any]] = mapped_column(default=list)
    released_why: Mapped[str] = mapped_column(default="")
    tyres: Mapped[str] = mapped_column(default="")
    floor: Mapped[dict[str, Any]] = mapped_column(default=dict, server_default=text("'{}'::jsonb"))
    """By axle: whether it had touched, where it was looked at."""
    confidence: Mapped[int | None]
    words: Mapped[list[Any]] = mapped_column(default=list)
    note: Mapped[str] = mapped_column(default="")
    by: Mapped[str]
    at: Mapped[datetime] = mapped_column(server_default=func.now())
    aside_at: Mapped[datetime | None]
    pictures: Mapped[list[PictureRow]] = relationship(
        order_by="PictureRow.id",
        primaryjoin="and_(PictureRow.run_id == RunRow.id, PictureRow.removed_at.is_(None))",
        lazy="selectin",
        viewonly=True,
    )


class RequestKeyRow(Base):
    """A request that was done, by the key its browser gave it, and its answer: None until it was given."""

    __tablename__ = "request_key"
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id"), primary_key=True)
    key: Mapped[str] = mapped_column(primary_key=True)
    digest: Mapped[str]
    answer: Mapped[str | None]
    at: Mapped[datetime] = mapped_column(index=True)


class AmendmentRow(Base):
    """What was corrected of an event, a session or a run, or that it was set aside. Only ever added to."""

    __tablename__ = "amendment"
    __table_args__ = (Index("ix_amendment_kind_row_id", "kind", "row_id"),)
    id: Mapped[int] = mapped_column(primary_key=True)
    team_id: Mapped[int] = mapped_column(ForeignKey("team.id"))
    kind: Mapped[str]
    row_id: Mapped[int]
    before: Mapped[dict[str, Any]]
    after: Mapped[dict[str, Any]]
    why: Mapped[str]
    by: Mapped[str]
    at: Mapped[datetime]


class PictureRow(Base):
    """A photo or a clip of a run. Taken off it, the row stays and says by whom."""

    __tablename__ = "picture"
    id: Mapped[int] = mapped_column(primary_key=True)
    run_id: Mapped[int] = mapped_column(ForeignKey("run.id"), index=True)
    name: Mapped[str]
    kind: Mapped[str]
    digest: Mapped[str]
    phase: Mapped[str] = mapped_column(default="", server_default=text("''"))
    shows: Mapped[str] = mapped_column(default="", server_default=text("''"))
    data: Mapped[bytes] = mapped_column(deferred=True)
    by: Mapped[str]
    at: Mapped[datetime]
    removed_by: Mapped[str | None]
    removed_at: Mapped[datetime | None]


class WalkRow(Base):
    """An order of work walked through on a car; one of each is open at a time."""

    __tablename__ = "walk"
    __table_args__ = (
        Index(
            "uq_walk_open",
            "car_id",
            "procedure",
            unique=True,
            postgresql_where=text("ended_at IS NULL"),
        ),
    )
    id: Mapped[int] = mapped_column(primary_key=True)
    car_id: Mapped[int] = mapped_column(ForeignKey("car.id"))
    procedure: Mapped[str]
    started_by: Mapped[str]
    started_at: Mapped[datetime]
    ended_at: Mapped[datetime | None]
    ticks: Mapped[list[TickRow]] = relationship(
        order_by="TickRow.id",
        primaryjoin="and_(TickRow.walk_id == WalkRow.id, TickRow.undone_at.is_(None))",
        lazy="selectin",
        viewonly=True,
    )


class TickRow(Base):
    """A step done, by whom and when. A tick taken back stays, and says by whom."""

    __tablename__ = "tick"
    __table_args__ = (
        Index(
            "uq_tick_standing",
            "walk_id",
            "step",
            unique=True,
            postgresql_where=text("undone_at IS NULL"),
        ),
    )
    id: Mapped[int] = mapped_column(primary_key=True)
    walk_id: Mapped[int] = mapped_column(ForeignKey("walk.id"))
    step: Mapped[str]
    by: Mapped[str]
    at: Mapped[datetime]
    undone_by: Mapped[str | None]
    undone_at: Mapped[datetime | None]


class WatchedRow(Base):
    """An open issue, a part off the car, a torque, a class limit, a service; closed it stays on record."""

    __tablename__ = "watched"
    id: Mapped[int] = mapped_column(primary_key=True)
    car_id: Mapped[int] = mapped_column(ForeignKey("car.id"), index=True)
    kind: Mapped[str]
    words: Mapped[str]
    data: Mapped[dict[str, Any]]
    opened_by: Mapped[str]
    opened_at: Mapped[datetime]
    closed_by: Mapped[str | None]
    closed_at: Mapped[datetime | None]
    closed_words: Mapped[str] = mapped_column(default="")
    done: Mapped[list[WatchedDoneRow]] = relationship(order_by="WatchedDoneRow.id", lazy="selectin")


class WatchedDoneRow(Base):
    """A torque pulled or a service done, on which revision, by whom and when."""

    __tablename__ = "watched_done"
    id: Mapped[int] = mapped_column(primary_key=True)
    watched_id: Mapped[int] = mapped_column(ForeignKey("watched.id"), index=True)
    revision: Mapped[int]
    by: Mapped[str]
    at: Mapped[datetime]
