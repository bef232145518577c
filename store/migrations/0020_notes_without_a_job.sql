-- A vinyl is noted on its bench card and at a cut, too, where there is no job and no blank.
alter table bench_note alter column job_id drop not null, alter column shape drop not null, alter column surface drop not null;
alter table bench_note add constraint bench_note_is_of_something
  check (vinyl_id is not null or (shape is not null and surface is not null));
