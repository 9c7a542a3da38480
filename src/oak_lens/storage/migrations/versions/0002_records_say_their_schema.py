"""Records say their schema; sign-ins; segments with their size and content"""

from alembic import op
import sqlalchemy as sa

revision = '0002'
down_revision = '0001'
branch_labels = None
depends_on = None

VERSIONED = ('project', 'scene', 'media', 'edit')


def upgrade() -> None:
    # Until now the head alone said a schema, and scenes could be older than it said: all are read from the oldest on, since every step
    # leaves newer records as they are.
    for table in VERSIONED:
        op.add_column(table, sa.Column('schema_version', sa.Integer(), nullable=False, server_default='1'))
        op.alter_column(table, 'schema_version', server_default=None)
    for name, kind, default in (
        ('width', sa.Integer(), '0'), ('height', sa.Integer(), '0'), ('rate', sa.Text(), ''), ('scenes', sa.Integer(), '0'),
        ('pictures', sa.Integer(), '0'), ('fault', sa.Text(), ''),
    ):
        op.add_column('project', sa.Column(name, kind, nullable=False, server_default=default))
        op.alter_column('project', name, server_default=None)
    op.add_column('project', sa.Column('length', sa.BigInteger(), nullable=True))
    op.create_table('sign_in',
    sa.Column('id', sa.Text(), nullable=False),
    sa.Column('account', sa.Text(), nullable=False),
    sa.Column('token', sa.Text(), nullable=False),
    sa.Column('created', sa.DateTime(timezone=True), nullable=False),
    sa.Column('used', sa.DateTime(timezone=True), nullable=False),
    sa.ForeignKeyConstraint(['account'], ['account.id'], ondelete='CASCADE'),
    sa.PrimaryKeyConstraint('id')
    )
    op.create_index(op.f('ix_sign_in_account'), 'sign_in', ['account'], unique=False)
    op.create_table('kept_segment',
    sa.Column('key', sa.Text(), nullable=False),
    sa.Column('bytes', sa.BigInteger(), nullable=False),
    sa.Column('sha256', sa.Text(), nullable=False),
    sa.Column('made', sa.DateTime(timezone=True), nullable=False),
    sa.Column('used', sa.DateTime(timezone=True), nullable=False),
    sa.PrimaryKeyConstraint('key')
    )
    op.add_column('revision', sa.Column('request', sa.Text(), nullable=True))
    op.create_index('revision_by_request', 'revision', ['project', 'request'], unique=True)
    op.alter_column('export', 'segments', nullable=True)
    op.add_column('export', sa.Column('frames', sa.Integer(), nullable=False, server_default='0'))
    op.execute("""
        update export set frames = coalesce((
            select sum((part ->> 1)::int - (part ->> 0)::int) from jsonb_array_elements(export.segments) part), 0)
    """)
    op.alter_column('export', 'frames', server_default=None)


def downgrade() -> None:
    op.drop_column('export', 'frames')
    op.execute("update export set segments = '[]' where segments is null")
    op.alter_column('export', 'segments', nullable=False)
    op.drop_index('revision_by_request', table_name='revision')
    op.drop_column('revision', 'request')
    op.drop_table('kept_segment')
    op.drop_index(op.f('ix_sign_in_account'), table_name='sign_in')
    op.drop_table('sign_in')
    for name in ('length', 'fault', 'pictures', 'scenes', 'rate', 'height', 'width'):
        op.drop_column('project', name)
    for table in VERSIONED:
        op.drop_column(table, 'schema_version')
