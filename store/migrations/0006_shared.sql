-- Where a shared setting stands, what it is worth on another cutter, and what people say to each other about it.

-- Whose machine a version was found on: the shelf tells machines apart. Versions never change, but this was always so.
alter table card_version add column cutter_id uuid references cutter, add column blade_id uuid references blade;
alter table card_version disable trigger card_version_append_only;
update card_version v set (cutter_id, blade_id) = (
  select k.id, n.blade_id from card c join cutter k on k.person_id = c.person_id and k.model_key = c.model_key
    left join mounting n on n.cutter_id = k.id and n.removed_at is null
   where c.id = v.card_id order by k.created_at limit 1);
alter table card_version enable trigger card_version_append_only;

-- The evidence a setting stands on, counted; read by lists, made again by grades and once a day.
alter table setting add column proof jsonb;
create table card_standing (
  card_id uuid primary key references card,
  standing text not null check (standing in ('draft', 'tried', 'proven', 'doubted', 'retired')),
  proof jsonb not null,
  on_day date not null
);
create index card_standing_day on card_standing (on_day);

-- What somebody found with a card, beside the grade of the cut: the place that did when this one did not.
alter table confirmation
  add column outcome text check (outcome in ('worked', 'almost', 'failed')),
  add column better integer;
comment on column confirmation.better is 'Position on the strength axis of the cutter it was cut on that did as wanted after all.';

-- One fit of all shared settings: what went in, what came out. The newest one is shown; the one before serves until its translations are made.
create table shelf_fit (
  id bigint generated always as identity primary key,
  wanted text not null check (wanted in ('clean', 'through')),
  version text not null,
  input_hash bytea not null check (length(input_hash) = 32),
  input jsonb not null,
  summary jsonb not null,
  made_at timestamptz not null default now(),
  unique (wanted, input_hash, version)
);
create table translation (
  fit_id bigint not null references shelf_fit on delete cascade,
  cutter_id uuid not null references cutter,
  vinyl_id uuid not null references vinyl,
  -- Null where nothing can be said; the basis then says why.
  result jsonb,
  basis text not null check (basis in ('vinyl and cutter', 'vinyl', 'type', 'not comparable', 'nothing')),
  crafters integer not null default 0,
  models integer not null default 0,
  primary key (cutter_id, vinyl_id, fit_id)
);
create index translation_fit on translation (fit_id, cutter_id);
comment on table translation is 'A vinyl''s number on one cutter, from what others found on theirs. Belongs to one fit.';

-- How far each card lies from what all say of its vinyl, in log load: what it is ranked by, with the translation.
create table card_place (
  fit_id bigint not null references shelf_fit on delete cascade,
  card_id uuid not null references card,
  off real not null,
  primary key (fit_id, card_id)
);
-- Vinyls whose settings fall into two schools.
create table split (
  fit_id bigint not null references shelf_fit on delete cascade,
  vinyl_id uuid not null references vinyl,
  result jsonb not null,
  primary key (fit_id, vinyl_id)
);

-- People -----------------------------------------------------------------------------------------------------------------

create table thanks (
  card_id uuid not null references card,
  person_id uuid not null references person,
  at timestamptz not null default now(),
  primary key (card_id, person_id)
);

-- A question under a card, or an answer to one.
create table remark (
  id uuid primary key,
  card_id uuid not null references card,
  answers uuid references remark,
  person_id uuid not null references person,
  body text not null check (length(body) between 1 and 2000),
  at timestamptz not null default now(),
  hidden_at timestamptz
);
create index remark_card on remark (card_id, at);

create table follow (
  person_id uuid not null references person,
  vinyl_id uuid not null references vinyl,
  at timestamptz not null default now(),
  primary key (person_id, vinyl_id)
);
create index follow_vinyl on follow (vinyl_id);

-- What waits in somebody's inbox beside what was found with their cards.
create table notice (
  id uuid primary key,
  person_id uuid not null references person,
  kind text not null check (kind in ('question', 'answer', 'best', 'standing', 'hidden')),
  card_id uuid references card,
  vinyl_id uuid references vinyl,
  content jsonb not null default '{}',
  at timestamptz not null default now(),
  read_at timestamptz
);
create index notice_person on notice (person_id, at desc);
create index notice_unread on notice (person_id) where read_at is null;

-- Which card was the best for a vinyl when it was last looked at: who follows it hears when that changes.
create table best_card (
  vinyl_id uuid not null references vinyl,
  wanted text not null check (wanted in ('clean', 'through')),
  card_id uuid not null references card,
  version integer not null,
  standing text not null,
  since timestamptz not null default now(),
  primary key (vinyl_id, wanted)
);

-- Keeping the shelf in order ---------------------------------------------------------------------------------------------

alter table person add column steward_since timestamptz;
alter table card add column hidden_at timestamptz;
alter table card_report add column settled_at timestamptz;
create table steward_act (
  id bigint generated always as identity primary key,
  person_id uuid not null references person,
  act text not null check (act in ('hide card', 'show card', 'hide remark', 'merge vinyls', 'part vinyls', 'settle report')),
  card_id uuid references card,
  remark_id uuid references remark,
  vinyl_id uuid references vinyl,
  other_id uuid references vinyl,
  why text not null check (length(why) between 1 and 2000),
  at timestamptz not null default now()
);
create trigger steward_act_append_only before update or delete on steward_act for each row execute function refuse_change();
comment on table steward_act is 'Everything a steward did, with the reason. Only ever added to, and everybody may read it.';

alter table attempt drop constraint attempt_kind_check;
alter table attempt add constraint attempt_kind_check
  check (kind in ('sign-in', 'sign-up', 'publish', 'confirm', 'report', 'remark'));
