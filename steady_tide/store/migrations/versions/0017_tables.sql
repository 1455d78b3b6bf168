-- The tables as they were when the migrations before them were put together.

CREATE TABLE cameras (
    id text NOT NULL,
    edition integer NOT NULL,
    count integer DEFAULT 1 NOT NULL,
    "position" integer NOT NULL,
    example boolean DEFAULT false NOT NULL,
    known jsonb,
    keeping jsonb DEFAULT '{}'::jsonb NOT NULL,
    deleted_at timestamp with time zone,
    stamps jsonb DEFAULT '{}'::jsonb NOT NULL
);

CREATE TABLE card_frames (
    shot_id uuid NOT NULL,
    "position" integer NOT NULL,
    name text NOT NULL,
    says text NOT NULL,
    picture bytea NOT NULL,
    made_at timestamp with time zone DEFAULT now() NOT NULL
);

CREATE TABLE clip_frames (
    clip_id uuid NOT NULL,
    "position" integer NOT NULL,
    at_s double precision NOT NULL,
    plain bytea NOT NULL,
    marked bytea NOT NULL
);

CREATE TABLE clips (
    id uuid NOT NULL,
    folder_id uuid NOT NULL,
    name text NOT NULL,
    size_bytes bigint NOT NULL,
    modified_at timestamp with time zone NOT NULL,
    ends_digest text,
    state text NOT NULL,
    quick boolean NOT NULL,
    share double precision NOT NULL,
    problem text,
    asked integer NOT NULL,
    measured_times integer NOT NULL,
    facts jsonb,
    recorded_at timestamp with time zone,
    measures jsonb,
    timeline jsonb,
    measured_at timestamp with time zone,
    measured_as text,
    shot_id uuid,
    other_shot_id uuid,
    matched_by text,
    match_share double precision,
    planned jsonb,
    gone_at timestamp with time zone,
    updated_at timestamp with time zone DEFAULT now() NOT NULL,
    CONSTRAINT ck_clips_state CHECK ((state = ANY (ARRAY['waiting'::text, 'measuring'::text, 'done'::text, 'failed'::text, 'cancelled'::text])))
);

CREATE TABLE crews (
    id uuid NOT NULL,
    name text NOT NULL,
    people jsonb NOT NULL,
    school jsonb NOT NULL,
    stamps jsonb DEFAULT '{}'::jsonb NOT NULL
);

CREATE TABLE films (
    id uuid NOT NULL,
    shoot_id uuid NOT NULL,
    film jsonb NOT NULL,
    stamps jsonb DEFAULT '{}'::jsonb NOT NULL,
    made_at timestamp with time zone DEFAULT now() NOT NULL,
    deleted_at timestamp with time zone
);

CREATE TABLE gear_notes (
    id uuid NOT NULL,
    at timestamp with time zone NOT NULL,
    note jsonb NOT NULL,
    stamps jsonb DEFAULT '{}'::jsonb NOT NULL,
    updated_at timestamp with time zone DEFAULT now() NOT NULL,
    deleted_at timestamp with time zone,
    demo boolean DEFAULT false NOT NULL
);

CREATE TABLE ladder_answers (
    id uuid NOT NULL,
    ladder_id uuid NOT NULL,
    at timestamp with time zone NOT NULL,
    answer jsonb NOT NULL
);

CREATE TABLE ladders (
    id uuid NOT NULL,
    shot_id uuid,
    title text NOT NULL,
    ladder jsonb NOT NULL,
    made_at timestamp with time zone DEFAULT now() NOT NULL,
    deleted_at timestamp with time zone
);

CREATE TABLE look_stills (
    id uuid NOT NULL,
    name text NOT NULL,
    distance_m double precision NOT NULL,
    picture bytea NOT NULL,
    made_at timestamp with time zone DEFAULT now() NOT NULL
);

CREATE TABLE marks (
    key text NOT NULL,
    value text NOT NULL
);

CREATE TABLE own_editions (
    key text NOT NULL,
    edition integer NOT NULL,
    number jsonb NOT NULL,
    made_at timestamp with time zone DEFAULT now() NOT NULL
);

CREATE TABLE own_numbers (
    key text NOT NULL,
    switched_on boolean NOT NULL,
    edition integer NOT NULL
);

CREATE TABLE practice (
    topic text NOT NULL,
    entry jsonb NOT NULL,
    answer uuid,
    times integer DEFAULT 0 NOT NULL,
    answered_at timestamp with time zone DEFAULT now() NOT NULL
);

CREATE TABLE rush_clocks (
    camera text NOT NULL,
    ahead_s double precision NOT NULL,
    clips integer NOT NULL
);

CREATE TABLE rush_folders (
    id uuid NOT NULL,
    path text NOT NULL,
    kind text NOT NULL,
    problem text,
    looked_at timestamp with time zone,
    made_at timestamp with time zone DEFAULT now() NOT NULL,
    demo boolean DEFAULT false NOT NULL
);

CREATE TABLE set_ups (
    camera_id text NOT NULL,
    ticks jsonb DEFAULT '{}'::jsonb NOT NULL,
    names jsonb DEFAULT '{}'::jsonb NOT NULL,
    checked_at timestamp with time zone
);

CREATE TABLE sheet_drafts (
    id uuid NOT NULL,
    camera_id text,
    edition integer,
    rough jsonb NOT NULL,
    updated_at timestamp with time zone DEFAULT now() NOT NULL,
    revision integer DEFAULT 0 NOT NULL
);

CREATE TABLE sheet_editions (
    camera_id text NOT NULL,
    edition integer NOT NULL,
    sheet jsonb NOT NULL,
    created_at timestamp with time zone DEFAULT now() NOT NULL
);

CREATE TABLE shoots (
    id uuid NOT NULL,
    crew_id uuid,
    title text NOT NULL,
    place text NOT NULL,
    day date,
    zone text NOT NULL,
    latitude double precision,
    longitude double precision,
    mains_hz integer NOT NULL,
    note text NOT NULL,
    created_at timestamp with time zone DEFAULT now() NOT NULL,
    deleted_at timestamp with time zone,
    cloud text,
    rules jsonb DEFAULT '{}'::jsonb NOT NULL,
    stamps jsonb DEFAULT '{}'::jsonb NOT NULL,
    demo boolean DEFAULT false NOT NULL,
    CONSTRAINT ck_shoots_mains_hz CHECK ((mains_hz = ANY (ARRAY[50, 60])))
);

CREATE TABLE shots (
    id uuid NOT NULL,
    shoot_id uuid NOT NULL,
    "position" integer NOT NULL,
    starts_at timestamp with time zone,
    brief jsonb NOT NULL,
    plan jsonb,
    summary jsonb NOT NULL,
    revision integer NOT NULL,
    updated_at timestamp with time zone DEFAULT now() NOT NULL,
    deleted_at timestamp with time zone,
    wishes jsonb DEFAULT '{}'::jsonb NOT NULL,
    ticks jsonb DEFAULT '{}'::jsonb NOT NULL,
    really_set jsonb DEFAULT '{}'::jsonb NOT NULL,
    made_from jsonb,
    made_on jsonb,
    wish_stamps jsonb DEFAULT '{}'::jsonb NOT NULL,
    recipes jsonb DEFAULT '[]'::jsonb NOT NULL,
    framing jsonb,
    framing_stamps jsonb DEFAULT '{}'::jsonb NOT NULL
);

CREATE TABLE takes (
    id uuid NOT NULL,
    shot_id uuid,
    at timestamp with time zone NOT NULL,
    said jsonb NOT NULL,
    made_by text NOT NULL,
    clip_id uuid,
    measures jsonb,
    planned jsonb,
    ladder_id uuid,
    rung integer,
    stamps jsonb DEFAULT '{}'::jsonb NOT NULL,
    updated_at timestamp with time zone DEFAULT now() NOT NULL,
    deleted_at timestamp with time zone
);

CREATE TABLE things (
    kind text NOT NULL,
    id text NOT NULL,
    "position" integer NOT NULL,
    example boolean DEFAULT false NOT NULL,
    thing jsonb NOT NULL,
    keeping jsonb DEFAULT '{}'::jsonb NOT NULL,
    deleted_at timestamp with time zone,
    stamps jsonb DEFAULT '{}'::jsonb NOT NULL
);

CREATE TABLE uses (
    id text NOT NULL,
    use jsonb,
    chosen boolean DEFAULT false NOT NULL,
    per_year double precision,
    stamps jsonb DEFAULT '{}'::jsonb NOT NULL,
    made_at timestamp with time zone DEFAULT now() NOT NULL,
    deleted_at timestamp with time zone
);

ALTER TABLE ONLY cameras
    ADD CONSTRAINT pk_cameras PRIMARY KEY (id);

ALTER TABLE ONLY card_frames
    ADD CONSTRAINT pk_card_frames PRIMARY KEY (shot_id, "position");

ALTER TABLE ONLY clip_frames
    ADD CONSTRAINT pk_clip_frames PRIMARY KEY (clip_id, "position");

ALTER TABLE ONLY clips
    ADD CONSTRAINT pk_clips PRIMARY KEY (id);

ALTER TABLE ONLY crews
    ADD CONSTRAINT pk_crews PRIMARY KEY (id);

ALTER TABLE ONLY films
    ADD CONSTRAINT pk_films PRIMARY KEY (id);

ALTER TABLE ONLY gear_notes
    ADD CONSTRAINT pk_gear_notes PRIMARY KEY (id);

ALTER TABLE ONLY ladder_answers
    ADD CONSTRAINT pk_ladder_answers PRIMARY KEY (id);

ALTER TABLE ONLY ladders
    ADD CONSTRAINT pk_ladders PRIMARY KEY (id);

ALTER TABLE ONLY look_stills
    ADD CONSTRAINT pk_look_stills PRIMARY KEY (id);

ALTER TABLE ONLY marks
    ADD CONSTRAINT pk_marks PRIMARY KEY (key);

ALTER TABLE ONLY own_editions
    ADD CONSTRAINT pk_own_editions PRIMARY KEY (key, edition);

ALTER TABLE ONLY own_numbers
    ADD CONSTRAINT pk_own_numbers PRIMARY KEY (key);

ALTER TABLE ONLY practice
    ADD CONSTRAINT pk_practice PRIMARY KEY (topic);

ALTER TABLE ONLY rush_clocks
    ADD CONSTRAINT pk_rush_clocks PRIMARY KEY (camera);

ALTER TABLE ONLY rush_folders
    ADD CONSTRAINT pk_rush_folders PRIMARY KEY (id);

ALTER TABLE ONLY set_ups
    ADD CONSTRAINT pk_set_ups PRIMARY KEY (camera_id);

ALTER TABLE ONLY sheet_drafts
    ADD CONSTRAINT pk_sheet_drafts PRIMARY KEY (id);

ALTER TABLE ONLY sheet_editions
    ADD CONSTRAINT pk_sheet_editions PRIMARY KEY (camera_id, edition);

ALTER TABLE ONLY shoots
    ADD CONSTRAINT pk_shoots PRIMARY KEY (id);

ALTER TABLE ONLY shots
    ADD CONSTRAINT pk_shots PRIMARY KEY (id);

ALTER TABLE ONLY takes
    ADD CONSTRAINT pk_takes PRIMARY KEY (id);

ALTER TABLE ONLY things
    ADD CONSTRAINT pk_things PRIMARY KEY (kind, id);

ALTER TABLE ONLY uses
    ADD CONSTRAINT pk_uses PRIMARY KEY (id);

ALTER TABLE ONLY clips
    ADD CONSTRAINT uq_clips_folder_id UNIQUE (folder_id, name);

ALTER TABLE ONLY rush_folders
    ADD CONSTRAINT uq_rush_folders_path UNIQUE (path);

ALTER TABLE ONLY takes
    ADD CONSTRAINT uq_takes_clip_id UNIQUE (clip_id);

CREATE INDEX ix_clips_shot_id ON clips USING btree (shot_id);

CREATE INDEX ix_clips_updated_at ON clips USING btree (updated_at);

CREATE INDEX ix_films_shoot_id ON films USING btree (shoot_id);

CREATE INDEX ix_ladder_answers_ladder_id ON ladder_answers USING btree (ladder_id);

CREATE INDEX ix_ladders_shot_id ON ladders USING btree (shot_id);

CREATE INDEX ix_shots_shoot_id_position ON shots USING btree (shoot_id, "position");

CREATE INDEX ix_takes_at ON takes USING btree (at);

CREATE INDEX ix_takes_ladder_id ON takes USING btree (ladder_id);

CREATE INDEX ix_takes_shot_id ON takes USING btree (shot_id);

ALTER TABLE ONLY card_frames
    ADD CONSTRAINT fk_card_frames_shot_id_shots FOREIGN KEY (shot_id) REFERENCES shots(id) ON DELETE CASCADE;

ALTER TABLE ONLY clip_frames
    ADD CONSTRAINT fk_clip_frames_clip_id_clips FOREIGN KEY (clip_id) REFERENCES clips(id) ON DELETE CASCADE;

ALTER TABLE ONLY clips
    ADD CONSTRAINT fk_clips_folder_id_rush_folders FOREIGN KEY (folder_id) REFERENCES rush_folders(id) ON DELETE CASCADE;

ALTER TABLE ONLY clips
    ADD CONSTRAINT fk_clips_other_shot_id_shots FOREIGN KEY (other_shot_id) REFERENCES shots(id) ON DELETE SET NULL;

ALTER TABLE ONLY clips
    ADD CONSTRAINT fk_clips_shot_id_shots FOREIGN KEY (shot_id) REFERENCES shots(id) ON DELETE SET NULL;

ALTER TABLE ONLY films
    ADD CONSTRAINT fk_films_shoot_id_shoots FOREIGN KEY (shoot_id) REFERENCES shoots(id) ON DELETE CASCADE;

ALTER TABLE ONLY ladder_answers
    ADD CONSTRAINT fk_ladder_answers_ladder_id_ladders FOREIGN KEY (ladder_id) REFERENCES ladders(id) ON DELETE CASCADE;

ALTER TABLE ONLY ladders
    ADD CONSTRAINT fk_ladders_shot_id_shots FOREIGN KEY (shot_id) REFERENCES shots(id) ON DELETE SET NULL;

ALTER TABLE ONLY own_editions
    ADD CONSTRAINT fk_own_editions_key_own_numbers FOREIGN KEY (key) REFERENCES own_numbers(key) ON DELETE CASCADE;

ALTER TABLE ONLY sheet_editions
    ADD CONSTRAINT fk_sheet_editions_camera_id_cameras FOREIGN KEY (camera_id) REFERENCES cameras(id) ON DELETE CASCADE;

ALTER TABLE ONLY shoots
    ADD CONSTRAINT fk_shoots_crew_id_crews FOREIGN KEY (crew_id) REFERENCES crews(id) ON DELETE SET NULL;

ALTER TABLE ONLY shots
    ADD CONSTRAINT fk_shots_shoot_id_shoots FOREIGN KEY (shoot_id) REFERENCES shoots(id) ON DELETE CASCADE;

ALTER TABLE ONLY takes
    ADD CONSTRAINT fk_takes_clip_id_clips FOREIGN KEY (clip_id) REFERENCES clips(id) ON DELETE SET NULL;

ALTER TABLE ONLY takes
    ADD CONSTRAINT fk_takes_ladder_id_ladders FOREIGN KEY (ladder_id) REFERENCES ladders(id) ON DELETE SET NULL;

ALTER TABLE ONLY takes
    ADD CONSTRAINT fk_takes_shot_id_shots FOREIGN KEY (shot_id) REFERENCES shots(id) ON DELETE SET NULL;
