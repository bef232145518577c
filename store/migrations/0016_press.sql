-- How somebody presses a vinyl: on one fabric or any, with one press or any. Several may stand side by side; the newest that fits is theirs.
create table recipe (
  id uuid primary key,
  person_id uuid not null references person,
  vinyl_id uuid not null references vinyl,
  -- A surface of core/vinyls/blanks.ts, or any.
  surface text check (length(surface) between 1 and 40),
  press_id uuid references press,
  -- A way to press, as core/vinyls/overrides.ts reads it.
  way jsonb not null,
  shared boolean not null default false,
  -- What its author was warned of and keeps it all the same.
  agreed text check (length(agreed) between 1 and 600),
  made_at timestamptz not null default now(),
  away_at timestamptz
);
create index recipe_vinyl on recipe (vinyl_id, made_at desc) where away_at is null;
create index recipe_person on recipe (person_id) where away_at is null;

-- How a film came out of the press on a fabric: of a job's piece, or of a cell of a swatch. What its recipe is proven by.
create table press_outcome (
  event_id uuid not null,
  vinyl_id uuid not null references vinyl,
  person_id uuid not null references person,
  job_id uuid references job,
  piece_id uuid not null,
  surface text not null,
  press_id uuid references press,
  -- The way it was pressed, as it stood then: purpose, heat (m°C), seconds, pressure, peel.
  way jsonb not null,
  word text not null check (length(word) between 1 and 40),
  kind text not null check (kind in ('job', 'swatch')),
  -- How layers were pressed, where there were several.
  school text check (school in ('tack', 'full', 'ten')),
  at timestamptz not null,
  undone_at timestamptz,
  primary key (event_id, vinyl_id)
);
create index press_outcome_vinyl on press_outcome (vinyl_id, surface) where undone_at is null;
create index press_outcome_person on press_outcome (person_id);
comment on table press_outcome is 'Of one piece the last word counts: held, and came off in the wash later.';

-- What is said at the press: it was opened, what the plate was set to, what somebody was warned of and does all the same, what was lost.
alter table job_event drop constraint job_event_kind_check;
alter table job_event add constraint job_event_kind_check check (kind in
  ('start', 'pause', 'opened', 'done', 'skip', 'undo', 'note', 'outcome', 'plate', 'agreed', 'lost', 'cut', 'wrong', 'helped'));

-- A small press with low, medium and high; what a word means on this one; how even it is; what light, medium and heavy are on it.
alter table press drop constraint press_kind_check;
alter table press add constraint press_kind_check check (kind in ('plate', 'hand press', 'cap press', 'small press', 'iron'));
alter table press add column levels jsonb not null default '[]' check (octet_length(levels::text) <= 2000);
alter table press add column pressures jsonb not null default '{}' check (octet_length(pressures::text) <= 1000);
-- The same swatch in nine places of its plate: heat, seconds, grades row by row.
alter table press add column places jsonb check (octet_length(places::text) <= 1000);
-- How much cooler its coolest place is than its middle, m°C.
alter table press add column uneven integer not null default 0 check (uneven between 0 and 100000);

-- A small card of one film on one fabric: squares pressed at several heats and times, graded after the peel and after the wash.
create table press_swatch (
  id uuid primary key,
  person_id uuid not null references person,
  vinyl_id uuid not null references vinyl,
  surface text not null check (length(surface) between 1 and 40),
  press_id uuid references press,
  -- [{ id, heat (m°C), seconds, bond?, harm?, washed? }]
  cells jsonb not null check (jsonb_typeof(cells) = 'array' and octet_length(cells::text) <= 8000),
  made_at timestamptz not null default now(),
  away_at timestamptz
);
create index press_swatch_vinyl on press_swatch (person_id, vinyl_id, surface) where away_at is null;
