-- Safe to leave running: acts that are done once, addresses that are proven, links that are used once, sessions one can end.

-- What a form did, by its key and words: sent again, it is answered and not done again.
create table act (
  key bytea primary key check (length(key) = 32),
  person_id uuid,
  -- Whether the act made its person: whoever sends it again without a cookie is that guest.
  guest boolean not null default false,
  answer text not null default '' check (length(answer) <= 2000),
  at timestamptz not null default now()
);
create index act_at on act (at);

-- More is counted than the first lists named; the names stand in work.
alter table attempt drop constraint attempt_kind_check;
alter table attempt add constraint attempt_kind_check check (kind ~ '^[a-z -]{1,30}$');
create index attempt_at on attempt (at);

-- An address carries rights once whoever reads its mail has said so.
alter table person
  add column proven_at timestamptz,
  add check (proven_at is null or email is not null);
comment on column person.proven_at is 'When the link that was sent to the e-mail address was used.';

create table link (
  token_hash bytea primary key check (length(token_hash) = 32),
  person_id uuid not null references person,
  kind text not null check (kind in ('claim', 'prove', 'change', 'recover')),
  email citext not null check (length(email) between 3 and 254),
  -- Of an account that is being made: it begins when the link is used.
  name text check (length(name) between 1 and 80),
  password_hash text,
  made_at timestamptz not null default now(),
  expires_at timestamptz not null,
  used_at timestamptz
);
create index link_person on link (person_id);
comment on table link is 'Links that were sent by mail, by SHA-256 of their token: a stolen table opens nothing. Used once.';

-- Sessions are listed for their person: on what, since when.
alter table session add column device text not null default '' check (length(device) <= 80);
create index session_expires on session (expires_at);

-- Devices an account signed in on before: what strangers try at the door does not lock those out.
create table known_device (
  person_id uuid not null references person,
  device_hash bytea not null check (length(device_hash) = 32),
  seen_at timestamptz not null default now(),
  primary key (person_id, device_hash)
);

-- Who runs a run, and that they are alive: another process does not take a cutter from under the blade.
alter table device_run add column driver text check (length(driver) <= 200), add column beat_at timestamptz not null default now();

-- Guests that nobody came back to are looked for by when they were made.
create index person_guest on person (created_at) where email is null and became is null;

-- Who named a batch: what guests name is seen by themselves alone, and a batch can be reported.
alter table batch add column person_id uuid references person, add column hidden_at timestamptz;
create index batch_person on batch (person_id) where person_id is not null;
create table batch_report (
  id bigint generated always as identity primary key,
  batch_id uuid not null references batch,
  person_id uuid references person,
  why text not null check (length(why) between 1 and 2000),
  at timestamptz not null default now(),
  settled_at timestamptz
);
create index batch_report_open on batch_report (at) where settled_at is null;

-- Who keeps order is said by whoever runs the server, by proven addresses: nothing is kept that could fall out of step.
alter table person drop column steward_since;

-- After many rows came in at once, plans rest on what is there now. The role that serves pages owns no table and may not ask for that itself.
create function fresh_statistics() returns void language plpgsql security definer set search_path = public as $$
begin
  analyze vinyl; analyze vinyl_words; analyze vinyl_token; analyze colour;
end $$;

alter table steward_act drop constraint steward_act_act_check;
alter table steward_act add constraint steward_act_act_check check (act in ('hide card', 'show card', 'hide remark', 'merge vinyls',
  'part vinyls', 'settle report', 'hide batch', 'leave batch'));
