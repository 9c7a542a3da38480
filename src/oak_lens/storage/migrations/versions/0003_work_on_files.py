"""Work on files: progress and faults in columns of their own

Revision ID: 0003
Revises: 0002
"""

import sqlalchemy as sa
from alembic import op

revision = '0003'
down_revision = '0002'
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column('media_file', sa.Column('work', sa.Text(), nullable=False, server_default='prepare'))
    op.add_column('media_file', sa.Column('share', sa.Float(), nullable=False, server_default='0'))
    op.add_column('media_file', sa.Column('code', sa.Text(), nullable=False, server_default=''))
    op.drop_constraint('media_file_pkey', 'media_file', type_='primary')
    op.execute("update media_file set work = 'listen', sha256 = substr(sha256, 7) where sha256 like 'sound-%'")
    op.execute("""
        update media_file set code = split_part(message, ' ', 1), message = substr(message, strpos(message, ' ') + 1)
        where work = 'listen' and state = 'failed' and message like 'sound.%'
    """)
    op.execute("update media_file set state = 'working', share = cast(message as float), message = '' where state = 'listening'")
    op.create_primary_key('media_file_pkey', 'media_file', ['sha256', 'work'])
    for name in ('work', 'share', 'code'):
        op.alter_column('media_file', name, server_default=None)


def downgrade() -> None:
    op.drop_constraint('media_file_pkey', 'media_file', type_='primary')
    op.execute("update media_file set message = code || ' ' || message where work = 'listen' and state = 'failed'")
    op.execute("update media_file set state = 'listening', message = cast(share as text) where state = 'working'")
    op.execute("update media_file set sha256 = 'sound-' || sha256 where work = 'listen'")
    op.create_primary_key('media_file_pkey', 'media_file', ['sha256'])
    for name in ('work', 'share', 'code'):
        op.drop_column('media_file', name)
