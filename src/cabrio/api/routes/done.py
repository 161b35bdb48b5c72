"""What was done in the team, and by whom: to be read by its owners, to be edited by nobody."""

from __future__ import annotations

import json
from typing import Any

from apiflask import APIBlueprint
from flask import Response, request

from cabrio.storage import audit
from cabrio.storage.models import AuditRow

from .. import live
from .. import schemas as s
from ..context import actor, close_session, this_sign_in, transaction

routes = APIBlueprint("done", __name__, tag="People")

PAGE = 50
TOLD = {
    "entries",
    "id",
    "team_id",
    "car_id",
    "person_id",
    "at",
    "by",
    "began_at",
    "seen_at",
    "content_hash",
}
TOLD |= {
    f"{did}_{what}" for did in ("booked", "taken", "opened", "started") for what in ("at", "by")
}
"""Fields that an entry says already by its who, when and what, or that tell nobody anything."""
FIELDS, LETTERS = 12, 120
"""Fields told of one entry, and letters of a value: the rest is in the database."""


@routes.get("/done")
@routes.input(s.DoneQuery, location="query", arg_name="asked")
@routes.output(s.DoneView)
@routes.doc(summary="What was done in the team, the newest first (for its owners)")
def done(asked: s.DoneQuery) -> s.DoneView:
    with transaction() as db:
        who = actor()
        who.must("people")
        found = audit.entries(db, who.team_id, asked.before or None, asked.car or None, PAGE + 1)
        return s.DoneView(
            entries=[_entry(row) for row in found[:PAGE]],
            older=found[PAGE - 1].id if len(found) > PAGE else None,
        )


@routes.get("/changes")
@routes.input(s.SinceQuery, location="query", arg_name="asked")
@routes.output(s.ChangesView)
@routes.doc(
    summary="What was written since it was asked last, by others or elsewhere: for who has no stream"
)
def changes(asked: s.SinceQuery) -> s.ChangesView:
    with transaction() as db:
        found = audit.changes(db, actor().team_id, this_sign_in(), asked.after)
    return s.ChangesView(at=found.at, cars=list(found.cars), more=found.more)


@routes.get("/live")
@routes.input(s.SinceQuery, location="query", arg_name="asked")
@routes.doc(
    summary="The same as a stream of events, as it is written",
    responses={200: "Events, each a ChangesView", 204: "No stream is to be had: ask /changes"},
)
def stream(asked: s.SinceQuery) -> Response:
    who, streams = actor(), live.of_app()
    # first heard, then read: what is written between the two is told twice rather than never
    opened = streams.open(who.team_id, this_sign_in())
    if opened is None:
        return Response(status=204)
    try:
        last = request.headers.get("Last-Event-ID", "")
        after = int(last) if last.isascii() and last.isdigit() and len(last) < 16 else asked.after
        with transaction() as db:
            missed = audit.changes(db, who.team_id, this_sign_in(), after)
        close_session()  # for minutes to come it needs no connection
    except BaseException:
        streams.leave(opened)
        raise
    return live.answer(opened, missed)


def _entry(row: AuditRow) -> s.DoneEntry:
    said = row.entry
    before, after = said.get("before") or {}, said.get("after") or {}
    fields = sorted({*before, *after} - TOLD)
    return s.DoneEntry(
        id=row.id,
        at=said["at"],
        who=said["who"],
        did=said["did"],
        what=said["what"],
        row=said.get("row"),
        car=row.car_id,
        changes=[
            s.DoneChange(field=name, before=_short(before.get(name)), after=_short(after.get(name)))
            for name in fields[:FIELDS]
        ],
        more=max(0, len(fields) - FIELDS),
        seal=row.hash[:16],
    )


def _short(value: Any) -> str:
    if value is None:
        return ""
    text = value if isinstance(value, str) else json.dumps(value, ensure_ascii=False)
    return text if len(text) <= LETTERS else f"{text[:LETTERS]} …"
