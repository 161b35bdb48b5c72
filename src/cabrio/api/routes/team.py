"""Who belongs to the team, and where one is signed in oneself."""

from __future__ import annotations

import json
from datetime import datetime

from apiflask import APIBlueprint
from flask import Response
from flask_login import current_user

from cabrio.operations import people, sign_in
from cabrio.operations.errors import Busy
from cabrio.storage import people as stored
from cabrio.storage.documents import iso
from cabrio.storage.models import Person

from .. import schemas as s
from ..context import actor, exported, now, transaction
from ..signed_in import counted_try, take_back, visitor

routes = APIBlueprint("team", __name__, tag="People")


def _view(person: Person, seen: datetime | None = None) -> s.PersonView:
    return s.PersonView(
        id=person.id,
        name=person.name,
        email=person.email,
        role=person.role,
        owner=person.owner,
        state="shut out"
        if person.disabled_at
        else "in the team"
        if person.password_hash
        else "invited",
        last_seen=iso(seen) if seen else None,
    )


@routes.get("/people")
@routes.output(s.TeamView)
@routes.doc(summary="The team's people (for its owners)")
def team() -> s.TeamView:
    with transaction() as db:
        who = actor()
        who.must("people")
        seen = stored.last_seen(db, who.team_id)
        found = stored.people_of(db, who.team_id)
        return s.TeamView(people=[_view(one, seen.get(one.id)) for one in found])


@routes.post("/people")
@routes.input(s.Invite, arg_name="body")
@routes.output(s.Invited)
@routes.doc(summary="Add a person, and get the link by which they choose a password")
def invite(body: s.Invite) -> s.Invited:
    with transaction() as db:
        person, key = people.invite(
            db, actor(), name=body.name, email=body.email, role=body.role, now=now()
        )
        return s.Invited(person=_view(person), path=f"/join#{key}")


@routes.post("/people/<int:person_id>/link")
@routes.output(s.Invited)
@routes.doc(summary="A new link for a person to choose a password; earlier ones are void")
def link(person_id: int) -> s.Invited:
    with transaction() as db:
        person, key = people.invite_again(db, actor(), person_id, now())
        return s.Invited(person=_view(person), path=f"/join#{key}")


@routes.patch("/people/<int:person_id>")
@routes.input(s.PersonChange, arg_name="body")
@routes.output(s.PersonView)
@routes.doc(summary="Change a person's role, make an owner, shut out or let in again")
def change(person_id: int, body: s.PersonChange) -> s.PersonView:
    with transaction() as db:
        changed = people.change_person(
            db,
            actor(),
            person_id,
            now(),
            role=body.role,
            owner=body.owner,
            disabled=body.disabled,
        )
        return _view(changed)


@routes.get("/sign-ins")
@routes.output(s.SignIns)
@routes.doc(summary="Where one is signed in oneself")
def sign_ins() -> s.SignIns:
    with transaction() as db:
        found = sign_in.sign_ins(db, actor().person_id, now())
        return s.SignIns(
            sign_ins=[
                s.SignInView(
                    id=one.id,
                    machine=one.machine,
                    browser=one.browser,
                    began_at=iso(one.began_at),
                    seen_at=iso(one.seen_at),
                    this=one.id == current_user.sign_in_id,
                )
                for one in found
            ]
        )


@routes.get("/session/kept")
@routes.doc(summary="All that is kept of oneself, as JSON", responses={200: "What is kept"})
def kept() -> Response:
    with transaction() as db:
        actor()
        found = people.everything_of(db, current_user.person.email)
        exported(db, "own data")
    return Response(
        json.dumps(found, indent=1, ensure_ascii=False),
        mimetype="application/json",
        headers={"Content-Disposition": 'attachment; filename="kept-of-me.json"'},
    )


@routes.delete("/sign-ins/<int:sign_in_id>")
@routes.output(s.Ok)
@routes.doc(summary="End one of one's own sign-ins")
def end(sign_in_id: int) -> s.Ok:
    with transaction() as db:
        sign_in.end(db, actor().person_id, sign_in_id, now())
    return s.Ok()


@routes.put("/session/password")
@routes.input(s.NewPassword, arg_name="body")
@routes.output(s.Ok)
@routes.doc(summary="Change one's own password; every other sign-in ends")
def password(body: s.NewPassword) -> s.Ok:
    actor()  # signed in
    email = current_user.person.email
    counted_try(email)
    try:
        with transaction() as db:
            keep = current_user.sign_in_id
            people.change_password(db, actor(), body.old, body.new, now(), keep=keep)
            sign_in.forgive(db, email, visitor())
    except Busy:
        take_back(email)
        raise
    return s.Ok()
