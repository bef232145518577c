-- What somebody does by habit where a design goes and how layers are pressed, whatever the vinyl. An empty way: asked, and not wanted.
create table own_way (
  person_id uuid not null references person,
  topic text not null check (topic ~ '^[a-z ]{1,40}$'),
  way text not null check (way ~ '^[a-z0-9. -]{0,40}$'),
  at timestamptz not null default now(),
  primary key (person_id, topic)
);

-- What somebody noted at a step of a job: shown again with the same vinyl, or on the same kind of blank.
create table bench_note (
  event_id uuid primary key,
  person_id uuid not null references person,
  job_id uuid not null references job on delete cascade,
  step text not null,
  vinyl_id uuid references vinyl,
  shape text not null,
  surface text not null,
  says text not null check (char_length(says) between 1 and 500),
  at timestamptz not null,
  undone_at timestamptz
);
create index bench_note_vinyl on bench_note (person_id, vinyl_id, at desc) where undone_at is null;
create index bench_note_blank on bench_note (person_id, shape, surface, at desc) where undone_at is null and vinyl_id is null;
comment on table bench_note is 'Follows from the note events of jobs: about a vinyl, or with none about the blank.';
