"""Signing in."""

from __future__ import annotations

from pydantic import BaseModel, Field

from cabrio.files.bounds import Id, Name, Secret, Word

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


class DemoSignIn(In):
    person: Id


class DemoPerson(BaseModel):
    id: int
    name: str
    role: str


class DemoPeople(BaseModel):
    people: list[DemoPerson]
