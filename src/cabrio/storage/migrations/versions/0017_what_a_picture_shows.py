"""A photo or clip tells the phase it shows, and what is to be seen"""

import sqlalchemy as sa
from alembic import op

revision = "0017"
down_revision = "0016"


def upgrade() -> None:
    for name in ("phase", "shows"):
        op.add_column(
            "picture", sa.Column(name, sa.String(), nullable=False, server_default=sa.text("''"))
        )


def downgrade() -> None:
    for name in ("phase", "shows"):
        op.drop_column("picture", name)
