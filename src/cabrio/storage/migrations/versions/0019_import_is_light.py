"""What comes with a car from a file is passed over before it is made a document of; one index less

A car of years brings tens of thousands of rows, and each was written out as a document only to be passed over:
two thirds of what the end of an import took.
"""

from alembic import op

from cabrio.storage.migrations.statements import sql

revision = "0019"
down_revision = "0018"

WRITE = sql("0019_audit_write")


def upgrade() -> None:
    op.execute(WRITE)
    # the slips of a car are found by uq_slip_car_id_booked_as as well
    op.drop_index(op.f("ix_slip_car_id"), "slip")


def downgrade() -> None:
    # the function stays: it does what the one before did
    op.create_index(op.f("ix_slip_car_id"), "slip", ["car_id"])
