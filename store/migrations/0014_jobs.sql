-- A job: from the blank in the hand to the wash. The plan says what is wanted, a revision a row; events say what hands did. How far it is
-- follows from both and is stored nowhere.
create table job (
  id uuid primary key,
  person_id uuid not null references person,
  name text not null check (length(name) between 1 and 80),
  made_at timestamptz not null default now(),
  archived_at timestamptz
);
create index job_person on job (person_id, made_at desc);

create table job_plan (
  job_id uuid not null references job on delete cascade,
  rev integer not null check (rev between 1 and 200),
  plan jsonb not null check (jsonb_typeof(plan) = 'object' and octet_length(plan::text) <= 60000),
  made_at timestamptz not null default now(),
  primary key (job_id, rev)
);
create trigger job_plan_fixed before update on job_plan for each row execute function refuse_change();

-- A drawing as it came, and what the server read of it.
create table artwork (
  hash bytea primary key check (length(hash) = 32),
  bytes bytea not null check (length(bytes) between 1 and 3000000),
  summary jsonb not null,
  -- Drawings are read again when the reading changes.
  version text not null,
  made_at timestamptz not null default now()
);

create table job_event (
  id uuid primary key,
  job_id uuid not null references job on delete cascade,
  step text not null check (step ~ '^[a-z]+/[0-9a-f-]{36}$'),
  attempt integer not null check (attempt between 1 and 50),
  rev integer not null check (rev between 1 and 200),
  kind text not null check (kind in ('start', 'pause', 'done', 'skip', 'undo', 'note', 'outcome', 'cut', 'wrong', 'helped')),
  body jsonb not null default '{}' check (octet_length(body::text) <= 8000),
  person_id uuid not null references person,
  device_id uuid not null,
  device_at timestamptz not null,
  taken_at timestamptz not null default now()
);
create index job_event_job on job_event (job_id);
create index job_event_wrong on job_event (person_id) where kind = 'wrong';
create trigger job_event_fixed before update on job_event for each row execute function refuse_change();
comment on table job_event is 'What hands did at a job, append-only: the same event twice is one, and order does not matter.';

-- The cut of a part: its id follows from part and attempt, so that the same tap on two devices is one cut.
create table job_cut (
  part_id uuid not null,
  attempt integer not null check (attempt between 1 and 50),
  job_id uuid not null references job on delete cascade,
  cut_id uuid not null unique references cut,
  event_id uuid not null,
  -- Taken back before anybody graded it: blade and film were given back.
  undone_at timestamptz,
  -- The lines that were cut: SHA-256 of the cut file.
  geometry_hash bytea not null check (length(geometry_hash) = 32),
  width_um integer not null check (width_um > 0),
  height_um integer not null check (height_um > 0),
  primary key (part_id, attempt)
);
create index job_cut_job on job_cut (job_id);

-- Blanks somebody keeps: "my usual shirt, M".
create table own_blank (
  id uuid primary key,
  person_id uuid not null references person,
  name text not null check (length(name) between 1 and 80),
  blank jsonb not null check (octet_length(blank::text) <= 4000),
  made_at timestamptz not null default now(),
  away_at timestamptz
);
create index own_blank_person on own_blank (person_id) where away_at is null;
