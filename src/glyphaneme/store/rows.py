"""The tables, as typed rows."""

from __future__ import annotations

import uuid
from datetime import datetime
from enum import StrEnum
from typing import Any, ClassVar

from sqlalchemy import (
    BigInteger,
    CheckConstraint,
    DateTime,
    ForeignKey,
    ForeignKeyConstraint,
    Index,
    LargeBinary,
    MetaData,
    String,
    UniqueConstraint,
    func,
    true,
)
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column

JOB_STATES = ("waiting", "running", "paused", "done", "failed", "cancelled")


class JobKind(StrEnum):
    """What long work is about."""

    READ_PICTURE = "read_picture"
    EXPORT = "export"
    CUT_OUT = "cut_out"
    LINE_UP = "line_up"
    EXPORT_MANY = "export_many"
    PAIR = "pair"
    REFINE = "refine"
    BATCH = "batch"


class Base(DeclarativeBase):
    """Base of all rows; constraints get names that migrations can speak of."""

    metadata = MetaData(
        naming_convention={
            "ix": "ix_%(table_name)s_%(column_0_N_name)s",
            "uq": "uq_%(table_name)s_%(column_0_N_name)s",
            "ck": "ck_%(table_name)s_%(constraint_name)s",
            "fk": "fk_%(table_name)s_%(column_0_N_name)s",
            "pk": "pk_%(table_name)s",
        }
    )
    type_annotation_map: ClassVar[dict[Any, Any]] = {
        datetime: DateTime(timezone=True),
        dict[str, Any]: JSONB(none_as_null=True),
        bytes: LargeBinary,
        JobKind: String,
    }


class BlobRow(Base):
    """Some bytes, named by the SHA-256 of their content and so stored once."""

    __tablename__ = "blob"
    __table_args__ = (
        CheckConstraint("sha256 ~ '^[0-9a-f]{64}$'", name="sha256_is_hex"),
        CheckConstraint("size >= 0", name="size_not_negative"),
    )

    sha256: Mapped[str] = mapped_column(primary_key=True)
    size: Mapped[int] = mapped_column(BigInteger)


class BlobPieceRow(Base):
    """A piece of a blob, small enough to stream."""

    __tablename__ = "blob_piece"
    __table_args__ = (CheckConstraint("number >= 0", name="number_not_negative"),)

    sha256: Mapped[str] = mapped_column(
        ForeignKey("blob.sha256", ondelete="CASCADE"), primary_key=True
    )
    number: Mapped[int] = mapped_column(primary_key=True)
    data: Mapped[bytes]


class PictureRow(Base):
    """A picture on the shelf; the same bytes are one picture, however often brought."""

    __tablename__ = "picture"
    __table_args__ = (
        UniqueConstraint("sha256"),
        UniqueConstraint("library"),
        CheckConstraint("width > 0 AND height > 0", name="has_pixels"),
        CheckConstraint("name <> ''", name="has_name"),
    )

    id: Mapped[uuid.UUID] = mapped_column(primary_key=True, default=uuid.uuid4)
    sha256: Mapped[str] = mapped_column(ForeignKey("blob.sha256"))
    name: Mapped[str]
    format: Mapped[str]
    width: Mapped[int]
    height: Mapped[int]
    note: Mapped[str | None]
    """What people should know of how it was taken, such as that the file has pages."""
    map_tags: Mapped[dict[str, Any] | None]
    """Where on a map it lies, as its file says."""
    on_shelf: Mapped[bool] = mapped_column(server_default=true())
    """Whether somebody brought it in to be laid on; what masks are made of is not."""
    library: Mapped[str | None]
    """What the product's own library calls it, where it comes from there."""
    created_at: Mapped[datetime] = mapped_column(server_default=func.clock_timestamp())


class ProjectRow(Base):
    """A project: a name, and where in its tree of revisions it stands.

    `head` is what is shown; `tip` is the end of the way that head lies on, so that
    redo knows which way to go.
    """

    __tablename__ = "project"
    __table_args__ = (
        CheckConstraint("name <> ''", name="has_name"),
        # The revision must be one of this very project.
        ForeignKeyConstraint(
            ["id", "head_id"],
            ["revision.project_id", "revision.id"],
            name="fk_project_head",
            deferrable=True,
            initially="DEFERRED",
            use_alter=True,
        ),
        ForeignKeyConstraint(
            ["id", "tip_id"],
            ["revision.project_id", "revision.id"],
            name="fk_project_tip",
            deferrable=True,
            initially="DEFERRED",
            use_alter=True,
        ),
    )

    id: Mapped[uuid.UUID] = mapped_column(primary_key=True, default=uuid.uuid4)
    name: Mapped[str]
    head_id: Mapped[uuid.UUID]
    tip_id: Mapped[uuid.UUID]
    changes: Mapped[int] = mapped_column(BigInteger, server_default="0")
    """How many there were so far: of two states, the one with fewer is the older."""
    created_at: Mapped[datetime] = mapped_column(server_default=func.clock_timestamp())
    changed_at: Mapped[datetime] = mapped_column(server_default=func.clock_timestamp())
    removed_at: Mapped[datetime | None]
    begun_as: Mapped[dict[str, Any] | None]
    """What was asked for when it was begun; None for those begun before this was kept,
    and those that nobody can ask for again."""
    about: Mapped[dict[str, Any] | None]
    """What files made of it say: its title, who made it, what it shows."""
    plan: Mapped[dict[str, Any] | None]
    """The plan that it was begun from, what was put into that, and how far it is."""


class PictureUseRow(Base):
    """A project, as it stands, shows a picture."""

    __tablename__ = "picture_use"

    project_id: Mapped[uuid.UUID] = mapped_column(
        ForeignKey("project.id", ondelete="CASCADE"), primary_key=True
    )
    picture_id: Mapped[uuid.UUID] = mapped_column(
        ForeignKey("picture.id", ondelete="CASCADE"), primary_key=True, index=True
    )


class RevisionRow(Base):
    """One edit in a project's tree; its id is the key that the client made.

    The root has a snapshot and no edit; others have the edit and, every so often, a
    snapshot too.
    """

    __tablename__ = "revision"
    __table_args__ = (
        UniqueConstraint("project_id", "id"),
        ForeignKeyConstraint(
            ["project_id", "parent_id"],
            ["revision.project_id", "revision.id"],
            name="fk_revision_parent",
        ),
        CheckConstraint(
            "(parent_id IS NULL) = (edit IS NULL)", name="root_alone_has_no_edit"
        ),
        CheckConstraint(
            "parent_id IS NOT NULL OR snapshot IS NOT NULL", name="root_has_snapshot"
        ),
        CheckConstraint("(parent_id IS NULL) = (depth = 0)", name="depth_counts_edits"),
        Index("ix_revision_parent", "parent_id"),
    )

    id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    project_id: Mapped[uuid.UUID] = mapped_column(
        ForeignKey("project.id", ondelete="CASCADE")
    )
    parent_id: Mapped[uuid.UUID | None]
    depth: Mapped[int]
    edit: Mapped[dict[str, Any] | None]
    snapshot: Mapped[dict[str, Any] | None]
    label: Mapped[str]
    created_at: Mapped[datetime] = mapped_column(server_default=func.clock_timestamp())


class VersionRow(Base):
    """A moment of a project that somebody gave a name; a moment has one at most."""

    __tablename__ = "version"
    __table_args__ = (
        CheckConstraint("name <> ''", name="has_name"),
        ForeignKeyConstraint(
            ["project_id", "revision_id"],
            ["revision.project_id", "revision.id"],
            name="fk_version_revision",
            ondelete="CASCADE",
        ),
    )

    revision_id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    project_id: Mapped[uuid.UUID] = mapped_column(index=True)
    name: Mapped[str]
    created_at: Mapped[datetime] = mapped_column(server_default=func.clock_timestamp())


class FontRow(Base):
    """A font that somebody brought; documents name it by its file."""

    __tablename__ = "font"
    __table_args__ = (CheckConstraint("family <> ''", name="has_name"),)

    sha256: Mapped[str] = mapped_column(ForeignKey("blob.sha256"), primary_key=True)
    family: Mapped[str]
    style: Mapped[str]
    may_travel: Mapped[bool]
    """Whether its licence lets documents carry it along."""
    on_offer: Mapped[bool] = mapped_column(server_default=true())
    created_at: Mapped[datetime] = mapped_column(server_default=func.clock_timestamp())


class PurposeRow(Base):
    """A purpose that files are made for: one that ships and was changed, or an own."""

    __tablename__ = "purpose"
    __table_args__ = (CheckConstraint("name <> ''", name="has_name"),)

    id: Mapped[str] = mapped_column(primary_key=True)
    name: Mapped[str | None]
    """None of those that ship."""
    settings: Mapped[dict[str, Any]]
    created_at: Mapped[datetime] = mapped_column(server_default=func.clock_timestamp())


class PlanRow(Base):
    """A plan of somebody's own."""

    __tablename__ = "plan"
    __table_args__ = (CheckConstraint("name <> ''", name="has_name"),)

    name: Mapped[str] = mapped_column(primary_key=True)
    document: Mapped[dict[str, Any]]
    example_sha256: Mapped[str | None] = mapped_column(ForeignKey("blob.sha256"))
    """A small picture of what it makes, as a WebP file."""
    created_at: Mapped[datetime] = mapped_column(server_default=func.clock_timestamp())


class ProfileRow(Base):
    """A printer's colour profile that somebody brought; files name it by its bytes."""

    __tablename__ = "profile"
    __table_args__ = (CheckConstraint("name <> ''", name="has_name"),)

    sha256: Mapped[str] = mapped_column(ForeignKey("blob.sha256"), primary_key=True)
    name: Mapped[str]
    ink: Mapped[str]
    """Which channels it speaks of: cmyk, rgb or gray."""
    on_offer: Mapped[bool] = mapped_column(server_default=true())
    created_at: Mapped[datetime] = mapped_column(server_default=func.clock_timestamp())


class StandingRow(Base):
    """One move through a project's history; its id is the key that the client made.

    Kept for a while, so that a move that is sent again counts once.
    """

    __tablename__ = "standing"

    id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    project_id: Mapped[uuid.UUID] = mapped_column(
        ForeignKey("project.id", ondelete="CASCADE"), index=True
    )
    to_id: Mapped[uuid.UUID]
    created_at: Mapped[datetime] = mapped_column(server_default=func.clock_timestamp())


class JobRow(Base):
    """Long work that a person can watch and stop, and what came of it."""

    __tablename__ = "job"
    __table_args__ = (
        CheckConstraint("progress BETWEEN 0 AND 1", name="progress_is_a_share"),
        CheckConstraint(
            "state IN ('" + "', '".join(JOB_STATES) + "')", name="state_is_known"
        ),
        CheckConstraint(
            "kind IN ('" + "', '".join(JobKind) + "')", name="kind_is_known"
        ),
        CheckConstraint(
            "kind <> 'read_picture' OR picture_id IS NOT NULL", name="reads_a_picture"
        ),
        CheckConstraint(
            "kind <> 'export' OR (project_id IS NOT NULL AND request IS NOT NULL)",
            name="exports_a_project",
        ),
        CheckConstraint(
            "kind <> 'cut_out' OR (picture_id IS NOT NULL AND request IS NOT NULL)",
            name="cuts_out_of_a_picture",
        ),
        CheckConstraint(
            "kind <> 'line_up' OR (project_id IS NOT NULL AND request IS NOT NULL)",
            name="lines_up_in_a_project",
        ),
        CheckConstraint(
            "kind <> 'export_many' OR request IS NOT NULL",
            name="exports_some_projects",
        ),
        CheckConstraint(
            "kind <> 'pair' OR (picture_id IS NOT NULL AND request IS NOT NULL)",
            name="pairs_a_picture",
        ),
        CheckConstraint(
            "kind <> 'refine' OR project_id IS NOT NULL", name="refines_a_project"
        ),
        CheckConstraint(
            "kind <> 'batch' OR request IS NOT NULL", name="makes_some_pictures"
        ),
    )

    id: Mapped[uuid.UUID] = mapped_column(primary_key=True, default=uuid.uuid4)
    kind: Mapped[JobKind]
    state: Mapped[str] = mapped_column(default="waiting")
    progress: Mapped[float] = mapped_column(default=0.0)
    picture_id: Mapped[uuid.UUID | None] = mapped_column(
        ForeignKey("picture.id", ondelete="CASCADE"), index=True
    )
    project_id: Mapped[uuid.UUID | None] = mapped_column(
        ForeignKey("project.id", ondelete="CASCADE"), index=True
    )
    request: Mapped[dict[str, Any] | None]
    result_sha256: Mapped[str | None] = mapped_column(ForeignKey("blob.sha256"))
    found: Mapped[dict[str, Any] | None]
    """What it has found so far, where that is more than a file."""
    file_name: Mapped[str | None]
    error: Mapped[str | None]
    attempts: Mapped[int] = mapped_column(server_default="0")
    """How many workers began it; what an earlier one still says counts nothing."""
    created_at: Mapped[datetime] = mapped_column(server_default=func.clock_timestamp())
    changed_at: Mapped[datetime] = mapped_column(server_default=func.clock_timestamp())


class BatchItemRow(Base):
    """One picture of many that a plan makes."""

    __tablename__ = "batch_item"
    __table_args__ = (
        CheckConstraint("number >= 1", name="numbers_from_one"),
        CheckConstraint(
            "state IN ('waiting', 'made', 'failed')", name="state_is_known"
        ),
        CheckConstraint("doubt BETWEEN 0 AND 1", name="doubt_is_a_share"),
    )

    job_id: Mapped[uuid.UUID] = mapped_column(
        ForeignKey("job.id", ondelete="CASCADE"), primary_key=True
    )
    number: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str]
    filling: Mapped[dict[str, Any]]
    state: Mapped[str] = mapped_column(server_default="waiting")
    tries: Mapped[int] = mapped_column(server_default="0")
    """How often it was begun: what kills its worker again and again is left out."""
    said: Mapped[str | None]
    """Why it failed, or what of it is to be looked at."""
    doubt: Mapped[float | None]
    """How unsure its cut-outs are; None where there are none."""
    project_id: Mapped[uuid.UUID | None] = mapped_column(
        ForeignKey("project.id", ondelete="SET NULL"), index=True
    )
    file_sha256: Mapped[str | None] = mapped_column(ForeignKey("blob.sha256"))


class StrokeRow(Base):
    """One stroke of a mask, as it was painted; it never changes.

    `id` is the SHA-256 of the stroke and of the id of the one before it, so that
    histories and copies share what they have in common.
    """

    __tablename__ = "stroke"
    __table_args__ = (CheckConstraint("number >= 1", name="numbers_from_one"),)

    id: Mapped[str] = mapped_column(String(64), primary_key=True)
    previous_id: Mapped[str | None] = mapped_column(
        String(64), ForeignKey("stroke.id"), index=True
    )
    number: Mapped[int]
    """How many strokes there are up to this one."""
    stroke: Mapped[dict[str, Any]]
    created_at: Mapped[datetime] = mapped_column(server_default=func.clock_timestamp())


class MatteRow(Base):
    """A matte that was found; it stays, since a person's work depends on it.

    `key` is the SHA-256 of all that it was found from: the picture, the network with
    its version, and the settings.
    """

    __tablename__ = "matte"
    __table_args__ = (
        UniqueConstraint("key"),
        CheckConstraint("level >= 0", name="level_not_negative"),
    )

    id: Mapped[uuid.UUID] = mapped_column(primary_key=True, default=uuid.uuid4)
    key: Mapped[str] = mapped_column(String(64))
    sha256: Mapped[str] = mapped_column(ForeignKey("blob.sha256"), index=True)
    level: Mapped[int]
    """One of its pixels covers 2^level by 2^level of the picture's."""
    subjects: Mapped[int] = mapped_column(server_default="0")
    """How many subjects can be told apart in it; 0 where there is one."""
    created_at: Mapped[datetime] = mapped_column(server_default=func.clock_timestamp())
