"""The tables. Briefs and plans are kept whole, as the open formats they are."""

from __future__ import annotations

from datetime import date, datetime
from typing import Any
from uuid import UUID, uuid4

from sqlalchemy import (
    BigInteger,
    Boolean,
    CheckConstraint,
    Date,
    DateTime,
    Float,
    ForeignKey,
    Index,
    Integer,
    LargeBinary,
    MetaData,
    Text,
    UniqueConstraint,
    false,
    func,
    text,
)
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column, relationship

from steady_tide.store.documents import Document

NAMING = {
    "ix": "ix_%(column_0_label)s",
    "uq": "uq_%(table_name)s_%(column_0_name)s",
    "ck": "ck_%(table_name)s_%(constraint_name)s",
    "fk": "fk_%(table_name)s_%(column_0_name)s_%(referred_table_name)s",
    "pk": "pk_%(table_name)s",
}


class Base(DeclarativeBase):
    metadata = MetaData(naming_convention=NAMING)


class Crew(Base):
    """People who work together, with the schools they follow."""

    __tablename__ = "crews"

    id: Mapped[UUID] = mapped_column(primary_key=True, default=uuid4)
    name: Mapped[str] = mapped_column(Text)
    people: Mapped[list[str]] = mapped_column(JSONB, default=list)
    school: Mapped[dict[str, Any]] = mapped_column(JSONB, default=dict)
    stamps: Mapped[dict[str, Any]] = mapped_column(JSONB, default=dict, server_default=text("'{}'::jsonb"))


class Shoot(Base):
    """A day at a place."""

    __tablename__ = "shoots"
    __table_args__ = (CheckConstraint("mains_hz in (50, 60)", name="mains_hz"),)

    id: Mapped[UUID] = mapped_column(primary_key=True, default=uuid4)
    crew_id: Mapped[UUID | None] = mapped_column(ForeignKey("crews.id", ondelete="SET NULL"))
    title: Mapped[str] = mapped_column(Text)
    place: Mapped[str] = mapped_column(Text, default="")
    day: Mapped[date | None] = mapped_column(Date)
    zone: Mapped[str] = mapped_column(Text, default="UTC")
    latitude: Mapped[float | None] = mapped_column(Float)
    longitude: Mapped[float | None] = mapped_column(Float)
    mains_hz: Mapped[int] = mapped_column(Integer, default=50)
    note: Mapped[str] = mapped_column(Text, default="")
    demo: Mapped[bool] = mapped_column(Boolean, default=False, server_default=text("false"))
    cloud: Mapped[str | None] = mapped_column(Text)
    rules: Mapped[dict[str, Any]] = mapped_column(JSONB, default=dict, server_default=text("'{}'::jsonb"))
    stamps: Mapped[dict[str, Any]] = mapped_column(JSONB, default=dict, server_default=text("'{}'::jsonb"))
    created_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())
    deleted_at: Mapped[datetime | None] = mapped_column(DateTime(timezone=True))
    shots: Mapped[list[Shot]] = relationship(
        back_populates="shoot", order_by="Shot.position", cascade="all, delete-orphan", passive_deletes=True
    )


class Shot(Base):
    """One thing to film: its brief, and the last plan made from it."""

    __tablename__ = "shots"
    __table_args__ = (Index("ix_shots_shoot_id_position", "shoot_id", "position"),)

    id: Mapped[UUID] = mapped_column(primary_key=True, default=uuid4)
    shoot_id: Mapped[UUID] = mapped_column(ForeignKey("shoots.id", ondelete="CASCADE"))
    position: Mapped[int] = mapped_column(Integer)
    starts_at: Mapped[datetime | None] = mapped_column(DateTime(timezone=True))
    brief: Mapped[dict[str, Any]] = mapped_column(Document("brief"))
    plan: Mapped[dict[str, Any] | None] = mapped_column(Document("plan"))
    summary: Mapped[dict[str, Any]] = mapped_column(JSONB, default=dict)
    made_from: Mapped[dict[str, Any] | None] = mapped_column(JSONB(none_as_null=True))
    made_on: Mapped[dict[str, Any] | None] = mapped_column(JSONB(none_as_null=True))
    wishes: Mapped[dict[str, Any]] = mapped_column(JSONB, default=dict, server_default=text("'{}'::jsonb"))
    ticks: Mapped[dict[str, Any]] = mapped_column(JSONB, default=dict, server_default=text("'{}'::jsonb"))
    really_set: Mapped[dict[str, Any]] = mapped_column(JSONB, default=dict, server_default=text("'{}'::jsonb"))
    recipes: Mapped[list[Any]] = mapped_column(JSONB, default=list, server_default=text("'[]'::jsonb"))
    framing: Mapped[dict[str, Any] | None] = mapped_column(Document("framing", none_as_null=True))
    stamps: Mapped[dict[str, Any]] = mapped_column(JSONB, default=dict, server_default=text("'{}'::jsonb"))
    updated_at: Mapped[datetime] = mapped_column(
        DateTime(timezone=True), server_default=func.now(), onupdate=func.now()
    )
    deleted_at: Mapped[datetime | None] = mapped_column(DateTime(timezone=True))
    shoot: Mapped[Shoot] = relationship(back_populates="shots")


class FilmKept(Base):
    """A film of a shoot, with its beats. Its framings are shots."""

    __tablename__ = "films"
    __table_args__ = (Index("ix_films_shoot_id", "shoot_id"),)

    id: Mapped[UUID] = mapped_column(primary_key=True, default=uuid4)
    shoot_id: Mapped[UUID] = mapped_column(ForeignKey("shoots.id", ondelete="CASCADE"))
    film: Mapped[dict[str, Any]] = mapped_column(Document("film"))
    stamps: Mapped[dict[str, Any]] = mapped_column(JSONB, default=dict, server_default=text("'{}'::jsonb"))
    made_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())
    deleted_at: Mapped[datetime | None] = mapped_column(DateTime(timezone=True))


class UseKept(Base):
    """A use of one's own, or what is said of one of the shelf: use is None there. chosen: whether presets are made for it; per_year: how often
    it is filmed, None as the shelf has it."""

    __tablename__ = "uses"

    id: Mapped[str] = mapped_column(Text, primary_key=True)
    use: Mapped[dict[str, Any] | None] = mapped_column(Document("use", none_as_null=True))
    chosen: Mapped[bool] = mapped_column(Boolean, default=False, server_default=false())
    per_year: Mapped[float | None] = mapped_column(Float)
    stamps: Mapped[dict[str, Any]] = mapped_column(JSONB, default=dict, server_default=text("'{}'::jsonb"))
    made_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())
    deleted_at: Mapped[datetime | None] = mapped_column(DateTime(timezone=True))


class SetUp(Base):
    """What was ticked when a camera was set up, and the names of its standing presets."""

    __tablename__ = "set_ups"

    camera_id: Mapped[str] = mapped_column(Text, primary_key=True)
    ticks: Mapped[dict[str, Any]] = mapped_column(JSONB, default=dict, server_default=text("'{}'::jsonb"))
    names: Mapped[dict[str, Any]] = mapped_column(JSONB, default=dict, server_default=text("'{}'::jsonb"))
    checked_at: Mapped[datetime | None] = mapped_column(DateTime(timezone=True))


class PracticeKept(Base):
    """What practice remembers of a topic: how it went last, when it is asked again. answer: id of the last answer, so that one sent twice counts once."""

    __tablename__ = "practice"

    topic: Mapped[str] = mapped_column(Text, primary_key=True)
    entry: Mapped[dict[str, Any]] = mapped_column(JSONB)
    answer: Mapped[UUID | None] = mapped_column()
    times: Mapped[int] = mapped_column(Integer, default=0, server_default="0")
    answered_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())


class Camera(Base):
    """A camera of the crew; its sheet stands in editions, of which one is the latest."""

    __tablename__ = "cameras"

    id: Mapped[str] = mapped_column(Text, primary_key=True)
    edition: Mapped[int] = mapped_column(Integer)
    count: Mapped[int] = mapped_column(Integer, default=1, server_default="1")
    position: Mapped[int] = mapped_column(Integer)
    example: Mapped[bool] = mapped_column(Boolean, default=False, server_default=false())
    known: Mapped[dict[str, Any] | None] = mapped_column(JSONB(none_as_null=True))
    keeping: Mapped[dict[str, Any]] = mapped_column(JSONB, default=dict, server_default=text("'{}'::jsonb"))
    stamps: Mapped[dict[str, Any]] = mapped_column(JSONB, default=dict, server_default=text("'{}'::jsonb"))
    deleted_at: Mapped[datetime | None] = mapped_column(DateTime(timezone=True))


class SheetEdition(Base):
    """A camera's sheet as it once was, or is; never changed."""

    __tablename__ = "sheet_editions"

    camera_id: Mapped[str] = mapped_column(ForeignKey("cameras.id", ondelete="CASCADE"), primary_key=True)
    edition: Mapped[int] = mapped_column(Integer, primary_key=True)
    sheet: Mapped[dict[str, Any]] = mapped_column(Document("sheet"))
    created_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())


class KeptThing(Base):
    """Anything else of the kit: glass, housings, lamps, cells, cards, mounts, kinds of cells."""

    __tablename__ = "things"

    kind: Mapped[str] = mapped_column(Text, primary_key=True)
    id: Mapped[str] = mapped_column(Text, primary_key=True)
    position: Mapped[int] = mapped_column(Integer)
    example: Mapped[bool] = mapped_column(Boolean, default=False, server_default=false())
    thing: Mapped[dict[str, Any]] = mapped_column(Document("thing"))
    keeping: Mapped[dict[str, Any]] = mapped_column(JSONB, default=dict, server_default=text("'{}'::jsonb"))
    stamps: Mapped[dict[str, Any]] = mapped_column(JSONB, default=dict, server_default=text("'{}'::jsonb"))
    deleted_at: Mapped[datetime | None] = mapped_column(DateTime(timezone=True))


class SheetDraft(Base):
    """A sheet that someone has begun: whatever was typed, right or wrong."""

    __tablename__ = "sheet_drafts"

    id: Mapped[UUID] = mapped_column(primary_key=True, default=uuid4)
    camera_id: Mapped[str | None] = mapped_column(Text)
    edition: Mapped[int | None] = mapped_column(Integer)
    rough: Mapped[dict[str, Any]] = mapped_column(Document("draft"))
    stamps: Mapped[dict[str, Any]] = mapped_column(JSONB, default=dict, server_default=text("'{}'::jsonb"))
    updated_at: Mapped[datetime] = mapped_column(
        DateTime(timezone=True), server_default=func.now(), onupdate=func.now()
    )


class CardFrame(Base):
    """A drawn frame that stands on a shot's card."""

    __tablename__ = "card_frames"

    shot_id: Mapped[UUID] = mapped_column(ForeignKey("shots.id", ondelete="CASCADE"), primary_key=True)
    position: Mapped[int] = mapped_column(Integer, primary_key=True)
    name: Mapped[str] = mapped_column(Text)
    says: Mapped[str] = mapped_column(Text)
    picture: Mapped[bytes] = mapped_column(LargeBinary)
    made_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())


class LookStill(Base):
    """A still of one's own that stands as a scene."""

    __tablename__ = "look_stills"

    id: Mapped[UUID] = mapped_column(primary_key=True, default=uuid4)
    name: Mapped[str] = mapped_column(Text)
    distance_m: Mapped[float] = mapped_column(Float)
    picture: Mapped[bytes] = mapped_column(LargeBinary)
    made_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())


class RushFolder(Base):
    """A folder whose clips are measured. kind: named at the start, in the interface, or that of drops."""

    __tablename__ = "rush_folders"

    id: Mapped[UUID] = mapped_column(primary_key=True, default=uuid4)
    path: Mapped[str] = mapped_column(Text, unique=True)
    kind: Mapped[str] = mapped_column(Text)
    demo: Mapped[bool] = mapped_column(Boolean, default=False, server_default=text("false"))
    problem: Mapped[str | None] = mapped_column(Text)
    looked_at: Mapped[datetime | None] = mapped_column(DateTime(timezone=True))
    made_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())


class Clip(Base):
    """A clip: facts of its file, its measures, its shot. asked: counts requests to measure, so that an answer to an older
    one counts no more; measured_times: answers that counted; measured_as: the curve that was undone; planned: what it is
    held against; gone_at: since when its file is not there."""

    __tablename__ = "clips"
    __table_args__ = (
        UniqueConstraint("folder_id", "name", name="uq_clips_folder_id"),
        CheckConstraint("state in ('waiting', 'measuring', 'done', 'failed', 'cancelled')", name="state"),
        Index("ix_clips_shot_id", "shot_id"),
        Index("ix_clips_updated_at", "updated_at"),
    )

    id: Mapped[UUID] = mapped_column(primary_key=True, default=uuid4)
    folder_id: Mapped[UUID] = mapped_column(ForeignKey("rush_folders.id", ondelete="CASCADE"))
    name: Mapped[str] = mapped_column(Text)
    size_bytes: Mapped[int] = mapped_column(BigInteger)
    modified_at: Mapped[datetime] = mapped_column(DateTime(timezone=True))
    ends_digest: Mapped[str | None] = mapped_column(Text)
    state: Mapped[str] = mapped_column(Text, default="waiting")
    quick: Mapped[bool] = mapped_column(Boolean, default=False)
    share: Mapped[float] = mapped_column(Float, default=0.0)
    problem: Mapped[str | None] = mapped_column(Text)
    asked: Mapped[int] = mapped_column(Integer, default=1)
    measured_times: Mapped[int] = mapped_column(Integer, default=0)
    facts: Mapped[dict[str, Any] | None] = mapped_column(JSONB(none_as_null=True))
    recorded_at: Mapped[datetime | None] = mapped_column(DateTime(timezone=True))
    measures: Mapped[dict[str, Any] | None] = mapped_column(JSONB(none_as_null=True))
    timeline: Mapped[dict[str, Any] | None] = mapped_column(JSONB(none_as_null=True))
    measured_at: Mapped[datetime | None] = mapped_column(DateTime(timezone=True))
    measured_as: Mapped[str | None] = mapped_column(Text)
    shot_id: Mapped[UUID | None] = mapped_column(ForeignKey("shots.id", ondelete="SET NULL"))
    other_shot_id: Mapped[UUID | None] = mapped_column(ForeignKey("shots.id", ondelete="SET NULL"))
    matched_by: Mapped[str | None] = mapped_column(Text)
    match_share: Mapped[float | None] = mapped_column(Float)
    planned: Mapped[dict[str, Any] | None] = mapped_column(Document("clip_plan", none_as_null=True))
    gone_at: Mapped[datetime | None] = mapped_column(DateTime(timezone=True))
    updated_at: Mapped[datetime] = mapped_column(
        DateTime(timezone=True), server_default=func.now(), onupdate=func.clock_timestamp()
    )


class ClipFrame(Base):
    """A small frame of a clip, plain and with what is blown and drowned marked, as JPEG."""

    __tablename__ = "clip_frames"

    clip_id: Mapped[UUID] = mapped_column(ForeignKey("clips.id", ondelete="CASCADE"), primary_key=True)
    position: Mapped[int] = mapped_column(Integer, primary_key=True)
    at_s: Mapped[float] = mapped_column(Float)
    plain: Mapped[bytes] = mapped_column(LargeBinary)
    marked: Mapped[bytes] = mapped_column(LargeBinary)


class RushClock(Base):
    """How far a camera's clock runs ahead, and how many clips say so."""

    __tablename__ = "rush_clocks"

    camera: Mapped[str] = mapped_column(Text, primary_key=True)
    ahead_s: Mapped[float] = mapped_column(Float)
    clips: Mapped[int] = mapped_column(Integer)


class LadderKept(Base):
    """A test ladder of a shot, as it is filmed."""

    __tablename__ = "ladders"
    __table_args__ = (Index("ix_ladders_shot_id", "shot_id"),)

    id: Mapped[UUID] = mapped_column(primary_key=True, default=uuid4)
    shot_id: Mapped[UUID | None] = mapped_column(ForeignKey("shots.id", ondelete="SET NULL"))
    title: Mapped[str] = mapped_column(Text)
    ladder: Mapped[dict[str, Any]] = mapped_column(Document("ladder"))
    made_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())
    deleted_at: Mapped[datetime | None] = mapped_column(DateTime(timezone=True))


class LadderAnswer(Base):
    """What somebody said of a ladder's frames. Its id is made where it is said, so that it counts once."""

    __tablename__ = "ladder_answers"
    __table_args__ = (Index("ix_ladder_answers_ladder_id", "ladder_id"),)

    id: Mapped[UUID] = mapped_column(primary_key=True)
    ladder_id: Mapped[UUID] = mapped_column(ForeignKey("ladders.id", ondelete="CASCADE"))
    at: Mapped[datetime] = mapped_column(DateTime(timezone=True))
    answer: Mapped[dict[str, Any]] = mapped_column(JSONB)


class TakeKept(Base):
    """A take: what was said of it, and what was measured. Its id is made where it is logged, so that it counts once. planned,
    measures: as of its clip, kept beyond it."""

    __tablename__ = "takes"
    __table_args__ = (
        Index("ix_takes_shot_id", "shot_id"),
        Index("ix_takes_at", "at"),
        Index("ix_takes_ladder_id", "ladder_id"),
    )

    id: Mapped[UUID] = mapped_column(primary_key=True, default=uuid4)
    shot_id: Mapped[UUID | None] = mapped_column(ForeignKey("shots.id", ondelete="SET NULL"))
    at: Mapped[datetime] = mapped_column(DateTime(timezone=True))
    said: Mapped[dict[str, Any]] = mapped_column(Document("take"))
    made_by: Mapped[str] = mapped_column(Text)
    clip_id: Mapped[UUID | None] = mapped_column(ForeignKey("clips.id", ondelete="SET NULL"), unique=True)
    measures: Mapped[dict[str, Any] | None] = mapped_column(JSONB(none_as_null=True))
    planned: Mapped[dict[str, Any] | None] = mapped_column(Document("clip_plan", none_as_null=True))
    ladder_id: Mapped[UUID | None] = mapped_column(ForeignKey("ladders.id", ondelete="SET NULL"))
    rung: Mapped[int | None] = mapped_column(Integer)
    stamps: Mapped[dict[str, Any]] = mapped_column(JSONB, default=dict, server_default=text("'{}'::jsonb"))
    updated_at: Mapped[datetime] = mapped_column(
        DateTime(timezone=True), server_default=func.now(), onupdate=func.now()
    )
    deleted_at: Mapped[datetime | None] = mapped_column(DateTime(timezone=True))


class GearNote(Base):
    """A note of what gear did."""

    __tablename__ = "gear_notes"

    id: Mapped[UUID] = mapped_column(primary_key=True, default=uuid4)
    at: Mapped[datetime] = mapped_column(DateTime(timezone=True))
    note: Mapped[dict[str, Any]] = mapped_column(Document("note"))
    demo: Mapped[bool] = mapped_column(Boolean, default=False, server_default=text("false"))
    stamps: Mapped[dict[str, Any]] = mapped_column(JSONB, default=dict, server_default=text("'{}'::jsonb"))
    updated_at: Mapped[datetime] = mapped_column(
        DateTime(timezone=True), server_default=func.now(), onupdate=func.now()
    )
    deleted_at: Mapped[datetime | None] = mapped_column(DateTime(timezone=True))


class OwnNumberKept(Base):
    """An own number that was switched on once, and the edition that counts."""

    __tablename__ = "own_numbers"

    key: Mapped[str] = mapped_column(Text, primary_key=True)
    switched_on: Mapped[bool] = mapped_column(Boolean)
    edition: Mapped[int] = mapped_column(Integer)


class OwnEdition(Base):
    """An own number as it once was, or is; never changed."""

    __tablename__ = "own_editions"

    key: Mapped[str] = mapped_column(ForeignKey("own_numbers.key", ondelete="CASCADE"), primary_key=True)
    edition: Mapped[int] = mapped_column(Integer, primary_key=True)
    number: Mapped[dict[str, Any]] = mapped_column(Document("number"))
    made_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())


class Mark(Base):
    """A fact about this database, such as that the demo data was loaded."""

    __tablename__ = "marks"

    key: Mapped[str] = mapped_column(Text, primary_key=True)
    value: Mapped[str] = mapped_column(Text)
