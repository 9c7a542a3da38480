"""The first tables"""

from alembic import op
from procrastinate.schema import SchemaManager
import sqlalchemy as sa
from sqlalchemy.dialects import postgresql

revision = '0001'
down_revision = None
branch_labels = None
depends_on = None


def upgrade() -> None:
    # The queue keeps its tables in the same database.
    op.get_bind().connection.driver_connection.execute(SchemaManager.get_schema())
    op.create_table('account',
    sa.Column('id', sa.Text(), nullable=False),
    sa.Column('name', sa.Text(), nullable=False),
    sa.Column('created', sa.DateTime(timezone=True), nullable=False),
    sa.PrimaryKeyConstraint('id')
    )
    op.create_table('media_file',
    sa.Column('sha256', sa.Text(), nullable=False),
    sa.Column('state', sa.Text(), nullable=False),
    sa.Column('message', sa.Text(), nullable=False),
    sa.Column('updated', sa.DateTime(timezone=True), nullable=False),
    sa.PrimaryKeyConstraint('sha256')
    )
    op.create_table('project',
    sa.Column('id', sa.Text(), nullable=False),
    sa.Column('owner', sa.Text(), nullable=False),
    sa.Column('title', sa.Text(), nullable=False),
    sa.Column('revision', sa.BigInteger(), nullable=False),
    sa.Column('head', postgresql.JSONB(astext_type=sa.Text()), nullable=False),
    sa.Column('created', sa.DateTime(timezone=True), nullable=False),
    sa.Column('updated', sa.DateTime(timezone=True), nullable=False),
    sa.Column('deleted', sa.DateTime(timezone=True), nullable=True),
    sa.ForeignKeyConstraint(['owner'], ['account.id'], ondelete='CASCADE'),
    sa.PrimaryKeyConstraint('id')
    )
    op.create_index(op.f('ix_project_owner'), 'project', ['owner'], unique=False)
    op.create_table('edit',
    sa.Column('sequence', sa.BigInteger(), autoincrement=True, nullable=False),
    sa.Column('project', sa.Text(), nullable=False),
    sa.Column('label', sa.Text(), nullable=False),
    sa.Column('author', sa.Text(), nullable=False),
    sa.Column('at', sa.DateTime(timezone=True), nullable=False),
    sa.Column('revision', sa.BigInteger(), nullable=False),
    sa.Column('undone', sa.Boolean(), nullable=False),
    sa.Column('forward', postgresql.JSONB(astext_type=sa.Text()), nullable=False),
    sa.Column('inverse', postgresql.JSONB(astext_type=sa.Text()), nullable=False),
    sa.ForeignKeyConstraint(['project'], ['project.id'], ondelete='CASCADE'),
    sa.PrimaryKeyConstraint('sequence')
    )
    op.create_index('edit_by_project', 'edit', ['project', 'sequence'], unique=False)
    op.create_table('export',
    sa.Column('id', sa.Text(), nullable=False),
    sa.Column('project', sa.Text(), nullable=False),
    sa.Column('owner', sa.Text(), nullable=False),
    sa.Column('file_name', sa.Text(), nullable=False),
    sa.Column('state', sa.Text(), nullable=False),
    sa.Column('settings', postgresql.JSONB(astext_type=sa.Text()), nullable=False),
    sa.Column('document', postgresql.JSONB(astext_type=sa.Text()), nullable=False),
    sa.Column('segments', postgresql.JSONB(astext_type=sa.Text()), nullable=False),
    sa.Column('done_segments', sa.Integer(), nullable=False),
    sa.Column('message', sa.Text(), nullable=False),
    sa.Column('bytes', sa.BigInteger(), nullable=False),
    sa.Column('created', sa.DateTime(timezone=True), nullable=False),
    sa.Column('started', sa.DateTime(timezone=True), nullable=True),
    sa.Column('finished', sa.DateTime(timezone=True), nullable=True),
    sa.ForeignKeyConstraint(['owner'], ['account.id'], ondelete='CASCADE'),
    sa.ForeignKeyConstraint(['project'], ['project.id'], ondelete='CASCADE'),
    sa.PrimaryKeyConstraint('id')
    )
    op.create_index(op.f('ix_export_project'), 'export', ['project'], unique=False)
    op.create_table('media',
    sa.Column('project', sa.Text(), nullable=False),
    sa.Column('id', sa.Text(), nullable=False),
    sa.Column('body', postgresql.JSONB(astext_type=sa.Text()), nullable=False),
    sa.ForeignKeyConstraint(['project'], ['project.id'], ondelete='CASCADE'),
    sa.PrimaryKeyConstraint('project', 'id')
    )
    op.create_table('revision',
    sa.Column('project', sa.Text(), nullable=False),
    sa.Column('revision', sa.BigInteger(), nullable=False),
    sa.Column('parts', postgresql.ARRAY(sa.Text()), nullable=False),
    sa.ForeignKeyConstraint(['project'], ['project.id'], ondelete='CASCADE'),
    sa.PrimaryKeyConstraint('project', 'revision')
    )
    op.create_table('scene',
    sa.Column('project', sa.Text(), nullable=False),
    sa.Column('id', sa.Text(), nullable=False),
    sa.Column('body', postgresql.JSONB(astext_type=sa.Text()), nullable=False),
    sa.ForeignKeyConstraint(['project'], ['project.id'], ondelete='CASCADE'),
    sa.PrimaryKeyConstraint('project', 'id')
    )
    op.create_table('version',
    sa.Column('id', sa.Text(), nullable=False),
    sa.Column('project', sa.Text(), nullable=False),
    sa.Column('name', sa.Text(), nullable=False),
    sa.Column('revision', sa.BigInteger(), nullable=False),
    sa.Column('created', sa.DateTime(timezone=True), nullable=False),
    sa.Column('document', postgresql.JSONB(astext_type=sa.Text()), nullable=False),
    sa.ForeignKeyConstraint(['project'], ['project.id'], ondelete='CASCADE'),
    sa.PrimaryKeyConstraint('id')
    )
    op.create_index(op.f('ix_version_project'), 'version', ['project'], unique=False)
    op.create_table('segment',
    sa.Column('export', sa.Text(), nullable=False),
    sa.Column('index', sa.Integer(), nullable=False),
    sa.Column('frames', sa.Integer(), nullable=False),
    sa.Column('done', sa.Boolean(), nullable=False),
    sa.ForeignKeyConstraint(['export'], ['export.id'], ondelete='CASCADE'),
    sa.PrimaryKeyConstraint('export', 'index')
    )


def downgrade() -> None:
    op.drop_table('segment')
    op.drop_index(op.f('ix_version_project'), table_name='version')
    op.drop_table('version')
    op.drop_table('scene')
    op.drop_table('revision')
    op.drop_table('media')
    op.drop_index(op.f('ix_export_project'), table_name='export')
    op.drop_table('export')
    op.drop_index('edit_by_project', table_name='edit')
    op.drop_table('edit')
    op.drop_index(op.f('ix_project_owner'), table_name='project')
    op.drop_table('project')
    op.drop_table('media_file')
    op.drop_table('account')
