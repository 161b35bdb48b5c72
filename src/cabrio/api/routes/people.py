"""Signing in and out."""

from __future__ import annotations

from apiflask import APIBlueprint
from flask import current_app, session
from flask_login import current_user
from flask_wtf.csrf import generate_csrf
from sqlalchemy.orm import Session

from cabrio.core.knowledge import knowledge
from cabrio.operations import people
from cabrio.operations import sign_in as signing
from cabrio.operations.actor import Actor
from cabrio.operations.errors import Busy, NotAllowed
from cabrio.storage.models import Person
from cabrio.storage.people import everyone

from .. import schemas as s
from ..context import actor, now, transaction, understood
from ..signed_in import SignedIn, counted_try, enter, leave, take_back, visitor

routes = APIBlueprint("people", __name__, tag="People")


def _now() -> s.Me:
    who = current_user._get_current_object() if current_user.is_authenticated else None
    return _me(who)


def _me(who: SignedIn | None) -> s.Me:
    demo = bool(current_app.config["DEMO"])
    if who is None:
        return s.Me(
            name=None,
            team=None,
            role=None,
            abilities=[],
            token=generate_csrf(),
            demo=demo,
            understood=[],
        )
    actor: Actor = people.actor_of(who.person)
    return s.Me(
        name=actor.name,
        team=who.team,
        role=actor.role,
        abilities=actor.abilities(),
        token=generate_csrf(),
        demo=demo,
        understood=understood(),
    )


@routes.get("/session")
@routes.output(s.Me)
@routes.doc(summary="Who is signed in, and the token that changes need")
def me() -> s.Me:
    return _now()


@routes.post("/session")
@routes.input(s.SignIn, arg_name="body")
@routes.output(s.Me)
@routes.doc(summary="Sign in")
def sign_in(body: s.SignIn) -> s.Me:
    counted_try(body.email)
    try:
        with transaction() as db:
            person = signing.sign_in(db, body.email, body.password, visitor(), now())
            if person is not None:
                return _enter(db, person)
            signing.write_down_refused(db, body.email, visitor())
    except Busy:
        take_back(body.email)
        raise
    # outside the transaction, so that it is kept
    raise NotAllowed("Wrong e-mail or password.")


@routes.post("/session/demo")
@routes.input(s.DemoSignIn, arg_name="body")
@routes.output(s.Me)
@routes.doc(summary="Sign in as one of the demo's people (demo only)")
def demo_sign_in(body: s.DemoSignIn) -> s.Me:
    with transaction() as db:
        chosen = people.demo_person(db, body.person, demo=bool(current_app.config["DEMO"]))
        return _enter(db, chosen)


@routes.post("/join")
@routes.input(s.Join, arg_name="body")
@routes.output(s.Me)
@routes.doc(summary="Choose a password by the key of an invitation, and be signed in")
def join(body: s.Join) -> s.Me:
    with transaction() as db:
        return _enter(db, people.join(db, body.key, body.password, now()))


def _enter(db: Session, person: Person) -> s.Me:
    session.clear()  # a session from before the sign-in is not carried into it
    return _me(enter(db, person))


@routes.post("/session/understood")
@routes.input(s.Understood, arg_name="body")
@routes.output(s.Me)
@routes.doc(summary="Say that the caution of stations is understood, until the sign-out")
def understand(body: s.Understood) -> s.Me:
    actor().must("read")
    known = knowledge().stations_by_id
    session["understood"] = sorted({*understood(), *body.stations} & known.keys())
    return _now()


@routes.delete("/session")
@routes.output(s.Ok)
@routes.doc(summary="Sign out")
def sign_out() -> s.Ok:
    with transaction() as db:
        leave(db, current_user if current_user.is_authenticated else None)
    session.clear()
    return s.Ok()


@routes.get("/demo-people")
@routes.output(s.DemoPeople)
@routes.doc(summary="People who can be signed in by one press (empty outside the demo)")
def demo_people() -> s.DemoPeople:
    if not current_app.config["DEMO"]:
        return s.DemoPeople(people=[])
    with transaction() as db:
        found = everyone(db)
        return s.DemoPeople(people=[s.DemoPerson(id=p.id, name=p.name, role=p.role) for p in found])
