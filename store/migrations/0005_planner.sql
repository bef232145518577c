-- How worn the blade was when something was cut, how the waste came off, test marks beside ordinary cuts.

alter table cut add column wear real check (wear >= 0);
comment on column cut.wear is 'Share of its life that the blade had behind it when the cut was made; null where that is not known.';

alter table job add column witness boolean not null default false;
comment on column job.witness is 'Whether a witness mark was cut in the margin: its cells have numbers from 2 on.';

create table weed_event (
  id uuid primary key,
  cell_id uuid not null references cell,
  ease smallint not null check (ease between 1 and 5),
  lost text[] not null check (lost <@ array['corner', 'hole', 'bar', 'gap']),
  torn boolean not null,
  person_id uuid not null references person,
  device_id uuid not null,
  device_at timestamptz not null,
  received_at timestamptz not null default now()
);
create index weed_event_cell on weed_event (cell_id, device_at);
create trigger weed_event_append_only before update or delete on weed_event for each row execute function refuse_change();
comment on table weed_event is 'How the waste of a cell came off. Only ever added to; the latest for a cell is the one that counts.';
