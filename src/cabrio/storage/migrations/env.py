"""Alembic's entry: runs migrations on the URL it is handed."""

from alembic import context
from sqlalchemy import NullPool, create_engine

from cabrio.storage.models import Base

# without a pool the connection is closed where a migration stops halfway, too
engine = create_engine(context.config.get_main_option("sqlalchemy.url") or "", poolclass=NullPool)
with engine.connect() as connection:
    context.configure(connection=connection, target_metadata=Base.metadata, compare_type=True)
    with context.begin_transaction():
        context.run_migrations()
