"""Photos and short clips of a run: what they may be, how large, and how many."""

from __future__ import annotations

from base64 import b64decode
from binascii import Error
from datetime import datetime
from hashlib import sha256

from sqlalchemy.orm import Session

from cabrio.core.errors import Impossible, OutOfRange
from cabrio.storage import logbook
from cabrio.storage.models import PictureRow

from .actor import Actor
from .bench import load
from .cleaned import cleaned
from .errors import NotFound
from .logbook import check_phase
from .texts import named
from .versions import check_version

LARGEST = 6 * 2**20
"""Bytes of one photo or clip."""
MOST = 12
"""Photos and clips of one run."""
BEGINS = (
    (0, b"\xff\xd8\xff", "image/jpeg"),
    (0, b"\x89PNG\r\n\x1a\n", "image/png"),
    (8, b"WEBP", "image/webp"),
    (4, b"ftyp", "video/mp4"),
    (0, b"\x1a\x45\xdf\xa3", "video/webm"),
)
"""How a file of each kind begins: where, with what. What it is called is not believed."""


def kind_of(data: bytes) -> str:
    """The kind a file is of, by its first bytes. Raises Impossible for any other."""
    for at, begins, kind in BEGINS:
        if data[at : at + len(begins)] == begins:
            return kind
    raise Impossible(
        "This is no photo or clip: JPEG, PNG, WebP, MP4 and WebM are kept.", number="data"
    )


def add(
    db: Session, actor: Actor, car_id: int, run_id: int, now: datetime, *, name: str, data: str
) -> PictureRow:
    """Keep a photo or clip (base64) with a run; the same file sent twice is kept once.

    Raises Impossible for what is none, OutOfRange for one too large or one too many.
    """
    actor.must("log")
    load(db, actor, car_id, lock=True)
    run = logbook.find_run(db, car_id, run_id)
    if run is None:
        raise NotFound("There is no such run of this car.")
    try:
        content = b64decode(data, validate=True)
    except (Error, ValueError):
        raise Impossible("The file did not arrive whole: send it again.", number="data") from None
    if len(content) > LARGEST:
        raise OutOfRange(
            f"A photo or clip has at most {LARGEST // 2**20} MB: cut the clip shorter.",
            number="data",
        )
    kind = kind_of(content)
    content = cleaned(content, kind)
    digest = sha256(content).hexdigest()
    for picture in run.pictures:
        if picture.digest == digest:
            return picture
    if len(run.pictures) >= MOST:
        raise OutOfRange(f"A run keeps {MOST} photos and clips: remove one first.", number="data")
    row = PictureRow(
        run_id=run.id,
        name=named(name, "name") or "photo",
        kind=kind,
        digest=digest,
        data=content,
        by=actor.name,
        at=now,
    )
    db.add(row)
    db.flush()
    return row


def say(
    db: Session,
    actor: Actor,
    car_id: int,
    picture_id: int,
    *,
    phase: str | None,
    shows: str | None,
    seen: str | None = None,
) -> None:
    """Say which phase a photo or clip shows, and what is to be seen; empty: not said, None: as it is.

    Raises UnknownName for a phase that this car's work does not have.
    """
    actor.must("log")
    row = find(db, actor, car_id, picture_id)
    check_version(row, seen, "photo or clip")
    if phase:
        check_phase(load(db, actor, car_id).car.discipline, phase)
    if phase is not None:
        row.phase = phase
    if shows is not None:
        row.shows = named(shows, "shows")


def find(db: Session, actor: Actor, car_id: int, picture_id: int) -> PictureRow:
    """A photo or clip of this car. Raises NotFound."""
    actor.must("look")
    load(db, actor, car_id)
    row = logbook.find_picture(db, car_id, picture_id)
    if row is None:
        raise NotFound("There is no such photo or clip of this car.")
    return row


def remove(db: Session, actor: Actor, car_id: int, picture_id: int, now: datetime) -> None:
    """Take a photo or clip off its run; who did it and when is kept."""
    actor.must("log")
    row = find(db, actor, car_id, picture_id)
    row.removed_by, row.removed_at = actor.name, now
