"""A car of years, made in a database of its own: what a team has after many seasons."""

from __future__ import annotations

from sqlalchemy import Engine, text

MAKE = (
    "SET LOCAL session_replication_role = replica",  # made up at once: nobody did it
    """
    INSERT INTO revision (car_id, number, setup, content_hash, booked_by, booked_at)
    SELECT r.car_id, r.number + n, CASE WHEN n % 2 = 1
             THEN jsonb_set(r.setup, '{rebound_clicks,0}', to_jsonb((r.setup #>> '{rebound_clicks,0}')::float + 1))
             ELSE r.setup END,
           'made', 'Ines Halloran', r.booked_at + n * interval '1 hour'
    FROM revision r, generate_series(1, :revisions) n
    WHERE r.car_id = :car AND r.number = (SELECT revision FROM car WHERE id = :car)
    """,
    """
    INSERT INTO slip (car_id, author, state, base, booked_as, why, expectation, jobs, version, at)
    SELECT r.car_id, r.booked_by, 'booked', r.number - 1, r.number, 'a click at the left front', '', '[]', 1,
           r.booked_at
    FROM revision r WHERE r.car_id = :car AND r.content_hash = 'made'
    """,
    """
    INSERT INTO slip_line (slip_id, position, name, place, old, new)
    SELECT s.id, 0, 'rebound_clicks', 'LF', b.setup #> '{rebound_clicks,0}', r.setup #> '{rebound_clicks,0}'
    FROM slip s JOIN revision r ON r.car_id = s.car_id AND r.number = s.booked_as
    JOIN revision b ON b.car_id = s.car_id AND b.number = s.booked_as - 1
    WHERE r.content_hash = 'made'
    """,
    """
    INSERT INTO verdict (slip_id, outcome, decision, words, by, at)
    SELECT s.id, CASE WHEN s.id % 3 = 0 THEN 'better' ELSE 'same' END, 'keep', '', s.author, s.at
    FROM slip s JOIN revision r ON r.car_id = s.car_id AND r.number = s.booked_as
    WHERE r.content_hash = 'made' AND s.id % 2 = 0
    """,
    """
    INSERT INTO reading (car_id, revision, kind, settles, conditions, taken, note, taken_by, taken_at)
    SELECT x.car_id, x.revision, x.kind, x.settles, x.conditions, x.taken, '', x.taken_by,
           x.taken_at + n * interval '1 minute'
    FROM (SELECT * FROM reading WHERE car_id = :car AND withdrawn_at IS NULL AND kind = 'pads'
          ORDER BY id DESC LIMIT 1) x, generate_series(1, :readings) n
    """,
    """
    INSERT INTO event (team_id, name, place, starts_on, ends_on, note)
    SELECT 1, 'Weekend ' || n, 'Marrow Fell', date '2027-01-01' + n, date '2027-01-02' + n, ''
    FROM generate_series(0, :sessions / 100) n
    """,
    """
    INSERT INTO session (event_id, car_id, name, kind, starts_at, surface, note)
    SELECT e.id, x.car_id, 'Session ' || n, x.kind, x.starts_at + n * interval '1 hour', '', ''
    FROM (SELECT * FROM session WHERE car_id = :car ORDER BY id DESC LIMIT 1) x,
         generate_series(1, :sessions) n JOIN event e ON e.name = 'Weekend ' || n / 100
    """,
    """
    INSERT INTO run (session_id, car_id, number, revision, driver, laps, best_time, times, not_ready, released_why,
                     tyres, words, note, by, at)
    SELECT s.id, s.car_id, n, 1, 'Mara Quillfeather', 6, 92.4, '{}', '[]', '', '', '[]', '', 'Oke Sandiford',
           s.starts_at + n * interval '20 minutes'
    FROM session s, generate_series(1, 2) n WHERE s.car_id = :car AND s.name LIKE 'Session %'
    """,
    # what is due by runs or km was done now and then: nobody lets it go for ten thousand sessions
    """
    INSERT INTO watched_done (watched_id, revision, by, at)
    SELECT w.id, 1, 'Oke Sandiford', (SELECT max(starts_at) FROM session WHERE car_id = :car) - interval '2 days'
    FROM watched w WHERE w.car_id = :car AND w.kind IN ('service', 'torque')
    """,
    """
    UPDATE car SET revision = (SELECT max(number) FROM revision WHERE car_id = :car),
           stamp = gen_random_uuid() WHERE id = :car
    """,
    """
    UPDATE revision SET content_hash = 'made ' || number WHERE content_hash = 'made'
    """,
)


def grow(
    engine: Engine, car: int, *, revisions: int = 2000, sessions: int = 10_000, readings: int = 2000
) -> None:
    """Give a car of the demo so many more revisions (a slip and a line each), sessions of two runs, readings."""
    counts = {"car": car, "revisions": revisions, "sessions": sessions, "readings": readings}
    with engine.begin() as db:
        for statement in MAKE:
            db.execute(text(statement), counts)
    with engine.connect().execution_options(isolation_level="AUTOCOMMIT") as db:
        db.execute(text("ANALYZE"))
