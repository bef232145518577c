-- What a part that was weeded against the clock was like, counted once: estimates of the next one read it here.
create table weeded_part (
  event_id uuid primary key references job_event on delete cascade,
  part jsonb check (octet_length(part::text) <= 1000)
);
comment on table weeded_part is 'Counted from what the event of a weeding says; null where its clock was a tap. It can be thrown away: it is counted again.';
