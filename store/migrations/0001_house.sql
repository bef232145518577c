-- The house. What is decided here cannot easily be changed later: grades are only ever added, lengths are whole µm,
-- settings are whole steps with the version of their cutter model, times carry their zone, evidence has a visibility.

create extension if not exists citext;

-- People ---------------------------------------------------------------------------------------------------------------

create table person (
  id uuid primary key,
  email citext unique check (length(email) between 3 and 254),
  password_hash text,
  name text not null default 'guest' check (length(name) between 1 and 80),
  zone text not null default 'UTC' check (length(zone) between 1 and 64),
  length_unit text not null default 'mm' check (length_unit in ('mm', 'in')),
  temperature_unit text not null default 'C' check (temperature_unit in ('C', 'F')),
  -- Whether private grades may, nameless, improve translations between cutters. Nobody is opted in.
  lends_private boolean not null default false,
  created_at timestamptz not null default now(),
  -- Deletion takes name, e-mail and password away and leaves the evidence under a pseudonym.
  deleted_at timestamptz,
  -- A guest who signed in to an account they had: their work is the account's now, their grades stay under this row.
  became uuid references person check (became <> id),
  check ((email is null) = (password_hash is null)),
  check (deleted_at is null or email is null)
);
create index person_became on person (became) where became is not null;
comment on table person is 'Somebody who cuts. A guest has no e-mail yet; claiming the work adds e-mail and password to the same row.';

create table session (
  token_hash bytea primary key check (length(token_hash) = 32),
  person_id uuid not null references person,
  created_at timestamptz not null default now(),
  seen_at timestamptz not null default now(),
  expires_at timestamptz not null
);
create index session_person on session (person_id);
comment on column session.token_hash is 'SHA-256 of the cookie: a stolen table signs nobody in.';

create table attempt (
  id bigint generated always as identity primary key,
  kind text not null check (kind in ('sign-in', 'sign-up')),
  key text not null check (length(key) between 1 and 100),
  at timestamptz not null default now()
);
create index attempt_recent on attempt (kind, key, at);
comment on table attempt is 'Failed sign-ins and new accounts, by hash of e-mail and of address: the limit survives a restart.';

-- Cutters and blades ---------------------------------------------------------------------------------------------------

create table cutter_model (
  key text not null,
  version integer not null check (version >= 1),
  name text not null check (length(name) between 1 and 60),
  definition jsonb not null,
  published_at timestamptz not null default now(),
  primary key (key, version),
  check (definition ->> 'key' = key and (definition ->> 'version')::integer = version)
);
comment on table cutter_model is 'How a model states strength, speed, depth and passes. A published version never changes; add a new one.';

create table cutter (
  id uuid primary key,
  person_id uuid not null references person,
  name text not null check (length(name) between 1 and 80),
  model_key text not null,
  model_version integer not null,
  created_at timestamptz not null default now(),
  retired_at timestamptz,
  foreign key (model_key, model_version) references cutter_model
);
create index cutter_person on cutter (person_id);

create table blade (
  id uuid primary key,
  person_id uuid not null references person,
  name text not null check (length(name) between 1 and 80),
  angle_degrees integer not null default 45 check (angle_degrees between 15 and 75),
  life_um bigint not null default 60000000 check (life_um > 0),
  -- What it had cut before Versipel began to count.
  cut_before_um bigint not null default 0 check (cut_before_um >= 0),
  created_at timestamptz not null default now()
);
create index blade_person on blade (person_id);

create table mounting (
  id uuid primary key,
  cutter_id uuid not null references cutter,
  blade_id uuid not null references blade,
  mounted_at timestamptz not null default now(),
  removed_at timestamptz check (removed_at >= mounted_at)
);
create unique index mounting_one_per_cutter on mounting (cutter_id) where removed_at is null;
create unique index mounting_one_per_blade on mounting (blade_id) where removed_at is null;
comment on table mounting is 'A blade on a cutter for a while. Cuts name the mounting, so that a blade''s age and moves are known.';

create table bench (
  person_id uuid primary key references person,
  cutter_id uuid references cutter
);
comment on table bench is 'The one cutter (with the blade mounted on it) that every number on screen is shown for.';

-- Vinyls ---------------------------------------------------------------------------------------------------------------

create table vinyl (
  id uuid primary key,
  brand text not null default '' check (length(brand) <= 80),
  name text not null check (length(name) between 1 and 120),
  type text not null check (length(type) between 1 and 40),
  person_id uuid not null references person,
  visibility text not null default 'private' check (visibility in ('private', 'link', 'public')),
  created_at timestamptz not null default now()
);
create index vinyl_person on vinyl (person_id, created_at desc);
create index vinyl_public on vinyl (created_at desc) where visibility = 'public';

create table vinyl_alias (
  alias_id uuid primary key references vinyl,
  vinyl_id uuid not null references vinyl check (vinyl_id <> alias_id),
  person_id uuid not null references person,
  made_at timestamptz not null default now()
);
create index vinyl_alias_target on vinyl_alias (vinyl_id);
comment on table vinyl_alias is 'Two entries that are the same vinyl. Foreign keys are never rewritten: a merge is a row here, and undone by deleting it.';

create table colour (
  id uuid primary key,
  vinyl_id uuid not null references vinyl,
  name text not null check (length(name) between 1 and 80),
  hex text not null check (hex ~ '^#[0-9a-f]{6}$'),
  unique (vinyl_id, name)
);

create table batch (
  id uuid primary key,
  vinyl_id uuid not null references vinyl,
  colour_id uuid references colour,
  label text not null check (length(label) between 1 and 80)
);
create index batch_vinyl on batch (vinyl_id);

-- Cuts, coupons, cells -------------------------------------------------------------------------------------------------

create table cut (
  id uuid primary key,
  kind text not null check (kind in ('coupon', 'job')),
  person_id uuid not null references person,
  vinyl_id uuid not null references vinyl,
  colour_id uuid references colour,
  batch_id uuid references batch,
  cutter_id uuid not null references cutter,
  mounting_id uuid not null references mounting,
  visibility text not null default 'private' check (visibility in ('private', 'link', 'public')),
  created_at timestamptz not null default now()
);
create index cut_person on cut (person_id, created_at desc);
create index cut_evidence on cut (vinyl_id, cutter_id);
create index cut_mounting on cut (mounting_id);
comment on table cut is 'One occasion: what was cut, on which cutter, with which blade. A coupon or a job.';

create table coupon (
  cut_id uuid primary key references cut,
  wanted text not null default 'clean' check (wanted in ('clean', 'through')),
  plan jsonb not null,
  sheet jsonb not null,
  set_aside_at timestamptz
);
comment on column coupon.sheet is 'The drawing as it was cut, in µm: a later change of the drawing code does not redraw old coupons.';

create table cell (
  id uuid primary key,
  cut_id uuid not null references cut,
  number integer not null check (number between 1 and 999),
  setting jsonb not null check (jsonb_typeof(setting -> 'steps') = 'object' and setting ? 'model' and setting ? 'version'),
  length_um bigint not null check (length_um >= 0),
  unique (cut_id, number)
);
comment on column cell.setting is 'Whole steps of every axis, with the cutter model and its version.';

create table cell_cut_event (
  id uuid primary key,
  cell_id uuid not null references cell,
  person_id uuid not null references person,
  passes integer not null check (passes between 1 and 9),
  device_id uuid not null,
  device_at timestamptz not null,
  received_at timestamptz not null default now()
);
create index cell_cut_event_cell on cell_cut_event (cell_id);
comment on table cell_cut_event is 'A pass was run over a cell. The metres of a blade are counted from these.';

create table grade_event (
  id uuid primary key,
  cell_id uuid not null references cell,
  kind text not null check (kind in ('grade', 'retract')),
  figure integer check (figure between 1 and 64),
  passes integer check (passes between 1 and 9),
  grade text check (grade in ('uncut', 'hangs', 'clean', 'scored', 'through')),
  -- No foreign key: a retraction may arrive before what it takes back.
  retracts uuid,
  person_id uuid not null references person,
  device_id uuid not null,
  device_at timestamptz not null,
  received_at timestamptz not null default now(),
  check (
    (kind = 'grade' and figure is not null and passes is not null and grade is not null and retracts is null)
    or (kind = 'retract' and figure is null and passes is null and grade is null and retracts is not null)
  )
);
create index grade_event_cell on grade_event (cell_id, device_at);
comment on table grade_event is 'What a person said about a cell, one row each, only ever added. The id is made by the device, so a repeat is no second row.';

create function refuse_change() returns trigger language plpgsql as $$
begin
  raise exception '% is only ever added to', tg_table_name using errcode = 'restrict_violation';
end $$;
create trigger grade_event_append_only before update or delete on grade_event for each row execute function refuse_change();
create trigger cell_cut_event_append_only before update or delete on cell_cut_event for each row execute function refuse_change();
create trigger cutter_model_append_only before update or delete on cutter_model for each row execute function refuse_change();
create trigger cell_fixed before update or delete on cell for each row execute function refuse_change();

-- What the evidence says -----------------------------------------------------------------------------------------------

create table posterior (
  input_hash bytea primary key check (length(input_hash) = 32),
  model_version text not null,
  prior_version text not null,
  result jsonb not null,
  made_at timestamptz not null default now()
);
comment on table posterior is 'One fit: hash of its whole input, versions, result. The same input is never fitted twice.';

create table reading (
  person_id uuid not null references person,
  vinyl_id uuid not null references vinyl,
  cutter_id uuid not null references cutter,
  wanted text not null default 'clean' check (wanted in ('clean', 'through')),
  input_hash bytea not null references posterior,
  read_at timestamptz not null default now(),
  primary key (person_id, vinyl_id, cutter_id, wanted)
);
create index reading_cutter on reading (cutter_id);
comment on table reading is 'Which posterior is the current one for a vinyl on a cutter. Lists read only this.';

create table setting (
  id uuid primary key,
  person_id uuid not null references person,
  vinyl_id uuid not null references vinyl,
  colour_id uuid references colour,
  cutter_id uuid not null references cutter,
  blade_id uuid not null references blade,
  wanted text not null default 'clean' check (wanted in ('clean', 'through')),
  controls jsonb not null check (jsonb_typeof(controls -> 'steps') = 'object' and controls ? 'model' and controls ? 'version'),
  standing text not null check (standing in ('draft', 'tried', 'proven', 'doubted', 'retired')),
  -- The fit it rests on: the proof stays as it was when the setting was kept.
  input_hash bytea not null references posterior,
  note text not null default '' check (length(note) <= 2000),
  visibility text not null default 'private' check (visibility in ('private', 'link', 'public')),
  kept_at timestamptz not null default now(),
  replaced_at timestamptz
);
create unique index setting_current on setting (person_id, vinyl_id, cutter_id, wanted) where replaced_at is null;
comment on table setting is 'Chosen controls for vinyl, cutter and blade. Keeping a new one replaces the old, which stays to be looked at.';
