-- Ordinary cuts as proof, and cuts that are sent to a cutter over a line.

create table job (
  cut_id uuid primary key references cut,
  wanted text not null default 'clean' check (wanted in ('clean', 'through')),
  -- Somebody said that it was never cut: it is not asked about again.
  dropped_at timestamptz
);
comment on table job is 'An ordinary cut, not a test. Its one cell is graded like any other: the most frequent proof there is.';

create table device_run (
  id uuid primary key,
  cut_id uuid not null references cut,
  person_id uuid not null references person,
  device text not null check (length(device) between 1 and 60),
  started_at timestamptz not null default now(),
  ended_at timestamptz,
  -- Why it ended before its last cell, in words.
  trouble text check (length(trouble) <= 500)
);
create index device_run_cut on device_run (cut_id, started_at desc);
create unique index device_run_one_at_a_time on device_run (device) where ended_at is null;
comment on table device_run is 'Cells of one cut sent to a cutter over its line. A cutter runs one at a time.';

create table device_cell (
  run_id uuid not null references device_run,
  cell_id uuid not null references cell,
  pass integer not null check (pass between 1 and 9),
  number integer not null,
  -- waiting: not sent yet. sending: bytes may have left. cut: the cutter said so, or a person did. unclear: nobody knows yet.
  -- not cut: a person looked, or it never left. spoiled: half cut, not to be graded.
  state text not null default 'waiting' check (state in ('waiting', 'sending', 'cut', 'unclear', 'not cut', 'spoiled')),
  note text check (length(note) <= 500),
  changed_at timestamptz not null default now(),
  primary key (run_id, cell_id, pass)
);
-- The heart of "no double cut": as long as one pass over a cell may have happened, or may yet, no second row can claim it.
create unique index device_cell_once on device_cell (cell_id, pass) where state <> 'not cut';
comment on table device_cell is 'One pass over one cell on its way through a line. The state is committed before bytes leave.';

create table cell_picture (
  cell_id uuid not null references cell,
  pass integer not null check (pass between 1 and 9),
  svg text not null check (length(svg) <= 2000000),
  taken_at timestamptz not null default now(),
  primary key (cell_id, pass)
);
comment on table cell_picture is 'What a cell looked like after weeding, as a simulated cutter showed it.';
