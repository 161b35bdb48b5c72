"""The person of a session, as Flask-Login wants to hold one; storage knows nothing of it."""

from __future__ import annotations

from flask_login import UserMixin

from cabrio.storage.models import Person


class SignedIn(UserMixin):
    def __init__(self, person: Person) -> None:
        self.person = person
        self.team = person.team.name  # read while the database session is open

    def get_id(self) -> str:
        return str(self.person.id)
