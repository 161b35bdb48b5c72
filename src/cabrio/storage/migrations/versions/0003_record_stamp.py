"""A stamp on the car's record, new with every write to it; a slip put by is called parked"""

import sqlalchemy as sa
from alembic import op

from cabrio.storage.migrations.statements import sql

revision = "0003"
down_revision = "0002"

# what a car's record is made of, beside the car itself, and when a write to it counts
WRITES = {
    "revision": "INSERT OR UPDATE OR DELETE",
    "reading": "INSERT OR UPDATE OR DELETE",
    "slip": "INSERT OR UPDATE OF booked_as",
}


def upgrade() -> None:
    op.add_column(
        "car",
        sa.Column("stamp", sa.Uuid(), nullable=False, server_default=sa.text("gen_random_uuid()")),
    )
    op.drop_column("car", "version")
    op.execute(sql("0003_stamp_car"))
    op.execute("""
        CREATE TRIGGER car_is_stamped BEFORE UPDATE ON car
        FOR EACH ROW EXECUTE FUNCTION stamp_car()
    """)
    op.execute(sql("0003_stamp_record"))
    for table, when in WRITES.items():
        booked = "WHEN (NEW.booked_as IS NOT NULL)" if table == "slip" else ""
        op.execute(f"""
            CREATE TRIGGER {table}_stamps_record AFTER {when} ON {table}
            FOR EACH ROW {booked} EXECUTE FUNCTION stamp_record()
        """)
    _slip_states("aside", "parked")


def _slip_states(old: str, new: str) -> None:
    op.drop_constraint(op.f("ck_slip_state_known"), "slip")
    op.execute(f"UPDATE slip SET state = '{new}' WHERE state = '{old}'")
    op.create_check_constraint(
        op.f("ck_slip_state_known"), "slip", f"state IN ('draft', '{new}', 'booked')"
    )


def downgrade() -> None:
    _slip_states("parked", "aside")
    for table in WRITES:
        op.execute(f"DROP TRIGGER {table}_stamps_record ON {table}")
    op.execute("DROP FUNCTION stamp_record()")
    op.execute("DROP TRIGGER car_is_stamped ON car")
    op.execute("DROP FUNCTION stamp_car()")
    op.add_column("car", sa.Column("version", sa.Integer(), nullable=False, server_default="1"))
    op.drop_column("car", "stamp")
