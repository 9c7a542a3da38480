"""Templates of accounts, and which they like

Revision ID: 0004
Revises: 0003
"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = '0004'
down_revision = '0003'
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        'template',
        sa.Column('id', sa.Text(), primary_key=True),
        sa.Column('account', sa.Text(), sa.ForeignKey('account.id', ondelete='CASCADE'), nullable=False, index=True),
        sa.Column('template', sa.Text(), nullable=False),
        sa.Column('version', sa.Text(), nullable=False),
        sa.Column('key', sa.Text(), nullable=False),
        sa.Column('source', sa.Text(), nullable=False),
        sa.Column('project', sa.Text(), nullable=False),
        sa.Column('made_as', sa.Text(), nullable=False),
        sa.Column('facts', postgresql.JSONB(), nullable=False),
        sa.Column('created', sa.DateTime(timezone=True), nullable=False),
        sa.UniqueConstraint('account', 'template', 'version'),
    )
    op.create_table(
        'favourite_template',
        sa.Column('account', sa.Text(), sa.ForeignKey('account.id', ondelete='CASCADE'), primary_key=True),
        sa.Column('template', sa.Text(), primary_key=True),
    )


def downgrade() -> None:
    op.drop_table('favourite_template')
    op.drop_table('template')
