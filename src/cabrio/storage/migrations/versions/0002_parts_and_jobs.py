"""Parts become an inventory, readings keep how they were taken, slips carry jobs"""

import hashlib
import json

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

from cabrio.core.car.upgrade import is_first_form, setup_upgraded, upgraded

revision = "0002"
down_revision = "0001"


def upgrade() -> None:
    empty = postgresql.JSONB(astext_type=sa.Text())
    op.add_column("reading", sa.Column("taken", empty, nullable=False, server_default="{}"))
    op.add_column("slip", sa.Column("jobs", empty, nullable=False, server_default="[]"))
    op.execute("""
        UPDATE reading SET settles = settles || jsonb_build_object('fuel_mass', jsonb_build_array(
            jsonb_build_array(fuel_mass))) WHERE fuel_mass IS NOT NULL
    """)
    op.drop_column("reading", "fuel_mass")
    _documents()


def _documents() -> None:
    """Stored cars and their revisions in today's form. The trigger keeps people from editing a revision;
    this alone rewrites its form, and nothing of what it says."""
    connection = op.get_bind()
    op.execute("ALTER TABLE revision DISABLE TRIGGER revision_is_kept")
    for car_id, document in connection.execute(sa.text("SELECT id, document FROM car")).all():
        if not is_first_form(document):
            continue
        new, codes = upgraded(document)
        connection.execute(
            sa.text("UPDATE car SET document = CAST(:d AS jsonb) WHERE id = :i"),
            {"d": json.dumps(new), "i": car_id},
        )
        rows = connection.execute(
            sa.text("SELECT id, setup FROM revision WHERE car_id = :i"), {"i": car_id}
        )
        for row_id, setup in rows.all():
            now = setup_upgraded(setup, codes)
            plain = json.dumps(now, sort_keys=True, separators=(",", ":"), ensure_ascii=False)
            connection.execute(
                sa.text(
                    "UPDATE revision SET setup = CAST(:s AS jsonb), content_hash = :h WHERE id = :i"
                ),
                {
                    "s": json.dumps(now),
                    "h": hashlib.sha256(plain.encode()).hexdigest(),
                    "i": row_id,
                },
            )
    op.execute("ALTER TABLE revision ENABLE TRIGGER revision_is_kept")


def downgrade() -> None:
    op.add_column("reading", sa.Column("fuel_mass", sa.Double(), nullable=True))
    op.execute(
        "UPDATE reading SET fuel_mass = (settles -> 'fuel_mass' -> 0 ->> 0)::double precision"
    )
    op.drop_column("slip", "jobs")
    op.drop_column("reading", "taken")
