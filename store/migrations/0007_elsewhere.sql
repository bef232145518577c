-- What comes from elsewhere: packs that were brought in and other servers' shelves that are followed, with where it all came from.

create table source (
  id uuid primary key,
  kind text not null check (kind in ('file', 'feed')),
  -- The server it was made on, as the pack says; empty where it says nothing.
  home text not null default '' check (length(home) <= 200),
  title text not null default '' check (length(title) <= 200),
  author text not null default '' check (length(author) <= 80),
  licence text check (licence in ('cc0', 'cc-by')),
  brought_by uuid not null references person,
  -- A steward says where it comes from is known. Else all of it is one voice: that of who brought it.
  vouched boolean not null default false,
  -- What a cut in it counts, against one made here.
  weight real not null check (weight > 0 and weight <= 1),
  -- seen: looked at, not brought in. queued: being brought in.
  state text not null default 'seen' check (state in ('seen', 'queued', 'done', 'failed', 'withdrawn')),
  -- The pack, until it is brought in.
  content jsonb,
  checksum text check (checksum ~ '^[0-9a-f]{64}$'),
  report jsonb,
  at timestamptz not null default now(),
  done_at timestamptz
);
create index source_person on source (brought_by, at desc);
comment on table source is 'Where something from outside came from: a pack somebody brought in, or the shelf of another server.';

create table subscription (
  source_id uuid primary key references source,
  address text not null check (length(address) between 8 and 500),
  etag text check (length(etag) <= 300),
  checked_at timestamptz,
  next_at timestamptz not null default now(),
  failures integer not null default 0 check (failures >= 0),
  -- The last thing that went wrong, in words.
  trouble text check (length(trouble) <= 500),
  ended_at timestamptz
);
create unique index subscription_once on subscription (address) where ended_at is null;
create index subscription_due on subscription (next_at) where ended_at is null;
comment on table subscription is 'The shelf of another server that is asked now and then for what is new.';

-- Foreign rows are like any other, under pseudonyms that no account has. What is null came about here.
alter table person add column source_id uuid references source;
alter table card add column source_id uuid references source;
alter table confirmation add column source_id uuid references source;
create index card_source on card (source_id) where source_id is not null;
create index confirmation_source on confirmation (source_id) where source_id is not null;
-- Withdrawn where it came from: no longer shown, and shown again when it comes back.
alter table card add column withdrawn_at timestamptz;

-- Which vinyl here an entry from elsewhere is. Decided once: a merge or a change here stands.
create table vinyl_elsewhere (
  key uuid primary key,
  vinyl_id uuid not null references vinyl,
  source_id uuid not null references source
);

-- What makers say of their vinyls, beside what crafters do.
create table leaflet (
  id uuid primary key,
  vinyl_id uuid not null references vinyl,
  content jsonb not null check (jsonb_typeof(content) = 'object'),
  person_id uuid not null references person,
  source_id uuid references source,
  at timestamptz not null default now()
);
create index leaflet_vinyl on leaflet (vinyl_id, at desc);
create trigger leaflet_append_only before update or delete on leaflet for each row execute function refuse_change();
comment on table leaflet is 'What a maker says of a vinyl, as somebody copied it. Only ever added to; the newest counts.';

-- Stewards hear of what is reported.
alter table notice drop constraint notice_kind_check;
alter table notice add constraint notice_kind_check
  check (kind in ('question', 'answer', 'best', 'standing', 'hidden', 'report'));

-- How somebody peels a vinyl, whatever way of pressing they follow.
alter table school drop constraint school_topic_check;
alter table school add constraint school_topic_check check (topic in ('press', 'cut', 'peel'));

alter table attempt drop constraint attempt_kind_check;
alter table attempt add constraint attempt_kind_check
  check (kind in ('sign-in', 'sign-up', 'publish', 'confirm', 'report', 'remark', 'pack'));
