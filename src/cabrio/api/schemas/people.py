"""Signing in, and who belongs to the team."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import BaseModel, Field

from cabrio.files.bounds import LARGEST_ID, Id, Name, Secret, Word

from .common import In


class Me(BaseModel):
    name: str | None
    team: str | None
    role: str | None
    abilities: list[str]
    token: str
    demo: bool
    understood: list[str]
    """Stations whose caution was acknowledged in this sign-in."""


class Understood(In):
    stations: list[Word] = Field(max_length=30)


class SignIn(In):
    email: Name
    password: Secret


class Join(In):
    key: Word
    password: Secret


class NewPassword(In):
    old: Secret
    new: Secret


class Invite(In):
    name: Name
    email: Name
    role: Word


class PersonChange(In):
    """What is left out stays as it is."""

    role: Word | None = None
    owner: bool | None = None
    disabled: bool | None = None


class PersonView(BaseModel):
    id: int
    name: str
    email: str
    role: str
    owner: bool
    state: Literal["in the team", "invited", "shut out"]
    last_seen: str | None


class TeamView(BaseModel):
    people: list[PersonView]


class Invited(BaseModel):
    """`path` is the address within the app where the password is chosen; it is told this once."""

    person: PersonView
    path: str


class SignInView(BaseModel):
    id: int
    machine: str
    browser: str
    began_at: str
    seen_at: str
    this: bool


class SignIns(BaseModel):
    sign_ins: list[SignInView]


class DoneQuery(In):
    before: Annotated[int, Field(ge=0, le=2**53)] = 0
    """Entries before this one; 0: the newest."""
    car: Annotated[int, Field(ge=0, le=LARGEST_ID)] = 0
    """Of this car only; 0: of everything."""


class DoneChange(BaseModel):
    field: str
    before: str
    after: str


class DoneEntry(BaseModel):
    id: int
    at: str
    who: str
    did: str
    what: str
    row: int | None
    car: int | None
    changes: list[DoneChange]
    more: int
    """How many more fields it changed than are told."""
    seal: str


class DoneView(BaseModel):
    entries: list[DoneEntry]
    older: int | None
    """What to ask for next with `before`; null where there is nothing older."""


class SinceQuery(In):
    after: Annotated[int, Field(ge=0, le=2**53)] = 0
    """The entry that was the newest when it was asked last; 0: tell the newest alone."""


class ChangesView(BaseModel):
    at: int
    cars: list[int]
    """Cars that were written to since, by others or from elsewhere."""
    more: bool
    """Whether anything was written that is not of one car alone."""


class DemoSignIn(In):
    person: Id


class DemoPerson(BaseModel):
    id: int
    name: str
    role: str


class DemoPeople(BaseModel):
    people: list[DemoPerson]
