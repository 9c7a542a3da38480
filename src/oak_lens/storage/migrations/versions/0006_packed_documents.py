"""Documents of exports are kept packed

Revision ID: 0006
Revises: 0005
"""

import zlib

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = '0006'
down_revision = '0005'
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column('export', sa.Column('packed', sa.LargeBinary(), nullable=True))
    connection = op.get_bind()
    # One at a time: each may be megabytes.
    for export in connection.execute(sa.text('select id from export')).scalars().all():
        written = connection.execute(sa.text('select cast(document as text) from export where id = :id'), {'id': export}).scalar_one()
        connection.execute(sa.text('update export set packed = :packed where id = :id'), {'packed': zlib.compress(written.encode(), 1), 'id': export})
    op.drop_column('export', 'document')
    op.alter_column('export', 'packed', new_column_name='document', nullable=False)


def downgrade() -> None:
    op.add_column('export', sa.Column('unpacked', postgresql.JSONB(), nullable=True))
    connection = op.get_bind()
    for export in connection.execute(sa.text('select id from export')).scalars().all():
        packed = connection.execute(sa.text('select document from export where id = :id'), {'id': export}).scalar_one()
        written = zlib.decompress(packed).decode()
        connection.execute(sa.text('update export set unpacked = cast(:written as jsonb) where id = :id'), {'written': written, 'id': export})
    op.drop_column('export', 'document')
    op.alter_column('export', 'unpacked', new_column_name='document', nullable=False)
