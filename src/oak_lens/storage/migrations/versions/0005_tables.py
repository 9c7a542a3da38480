"""Tables of projects, and the films that their rows make

Revision ID: 0005
Revises: 0004
"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = '0005'
down_revision = '0004'
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        'film_table',
        sa.Column('project', sa.Text(), sa.ForeignKey('project.id', ondelete='CASCADE'), primary_key=True),
        sa.Column('name', sa.Text(), nullable=False),
        sa.Column('content', postgresql.JSONB(), nullable=False),
        sa.Column('mapping', postgresql.JSONB(), nullable=False),
        sa.Column('pattern', sa.Text(), nullable=False),
        sa.Column('updated', sa.DateTime(timezone=True), nullable=False),
    )
    op.create_table(
        'film_batch',
        sa.Column('id', sa.Text(), primary_key=True),
        sa.Column('project', sa.Text(), sa.ForeignKey('project.id', ondelete='CASCADE'), nullable=False, index=True),
        sa.Column('owner', sa.Text(), sa.ForeignKey('account.id', ondelete='CASCADE'), nullable=False),
        sa.Column('settings', postgresql.JSONB(), nullable=False),
        sa.Column('document', postgresql.JSONB(), nullable=False),
        sa.Column('content', postgresql.JSONB(), nullable=False),
        sa.Column('mapping', postgresql.JSONB(), nullable=False),
        sa.Column('pattern', sa.Text(), nullable=False),
        sa.Column('numbers', postgresql.JSONB(), nullable=False),
        sa.Column('made', sa.Integer(), nullable=False),
        sa.Column('state', sa.Text(), nullable=False),
        sa.Column('message', sa.Text(), nullable=False),
        sa.Column('created', sa.DateTime(timezone=True), nullable=False),
    )
    op.add_column('export', sa.Column('batch', sa.Text(), sa.ForeignKey('film_batch.id', ondelete='CASCADE'), nullable=True))
    op.add_column('export', sa.Column('batch_row', sa.Integer(), nullable=True))
    op.create_index('export_by_batch', 'export', ['batch', 'batch_row'], unique=True)


def downgrade() -> None:
    op.drop_index('export_by_batch', 'export')
    op.drop_column('export', 'batch_row')
    op.drop_column('export', 'batch')
    op.drop_table('film_batch')
    op.drop_table('film_table')
