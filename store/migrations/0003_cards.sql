-- Sharing: cards with versions that never change, what others found with them, and finding a vinyl by a name half remembered.

create extension if not exists pg_trgm;
create extension if not exists fuzzystrmatch;

create table card (
  id uuid primary key,
  person_id uuid not null references person,
  vinyl_id uuid not null references vinyl,
  model_key text not null,
  wanted text not null default 'clean' check (wanted in ('clean', 'through')),
  visibility text not null default 'private' check (visibility in ('private', 'link', 'public')),
  -- Who knows this may read a card that is shared by link. A new one is made each time the link is.
  link_key text unique check (length(link_key) between 20 and 60),
  made_at timestamptz not null default now(),
  check ((visibility = 'link') = (link_key is not null)),
  unique (person_id, vinyl_id, model_key, wanted)
);
create index card_public on card (made_at desc) where visibility = 'public';
create index card_vinyl on card (vinyl_id);

create table card_version (
  card_id uuid not null references card,
  number integer not null check (number >= 1),
  -- Everything the card says, as it was: the vinyl's names, the model, the controls, the reading, the evidence cell by cell.
  content jsonb not null,
  change text not null default '' check (length(change) <= 2000),
  licence text not null check (licence in ('read', 'cc-by', 'cc-by-sa', 'cc0')),
  input_hash bytea not null references posterior,
  published_at timestamptz not null default now(),
  primary key (card_id, number)
);
comment on table card_version is 'A version never changes: what somebody adopted stays what it was. Licence stands per version.';
create trigger card_version_append_only before update or delete on card_version for each row execute function refuse_change();

alter table setting
  add column source_card uuid references card,
  add column source_version integer,
  add constraint setting_source check ((source_card is null) = (source_version is null));
comment on column setting.source_card is 'The card it was adopted from, with the version it then had.';

create table confirmation (
  cut_id uuid primary key references job,
  card_id uuid not null,
  version integer not null,
  person_id uuid not null references person,
  -- What was seen, in the words of who saw it. May be empty: the grade says it.
  said text not null default '' check (length(said) <= 2000),
  made_at timestamptz not null default now(),
  read_at timestamptz,
  foreign key (card_id, version) references card_version
);
create index confirmation_card on confirmation (card_id, made_at desc);
comment on table confirmation is 'One cut somebody made with a card on a cutter of theirs. Its grade is the grade of that cut.';

create table card_report (
  id bigint generated always as identity primary key,
  card_id uuid not null references card,
  person_id uuid references person,
  why text not null check (length(why) between 1 and 2000),
  at timestamptz not null default now()
);

-- What the public evidence says for a model: read by lists, made again when a card or a confirmation changes it.
create table shared_reading (
  vinyl_id uuid not null references vinyl,
  model_key text not null,
  model_version integer not null,
  wanted text not null check (wanted in ('clean', 'through')),
  input_hash bytea not null references posterior,
  crafters integer not null check (crafters >= 1),
  read_at timestamptz not null default now(),
  primary key (vinyl_id, model_key, model_version, wanted)
);

alter table attempt drop constraint attempt_kind_check;
alter table attempt add constraint attempt_kind_check
  check (kind in ('sign-in', 'sign-up', 'publish', 'confirm', 'report'));

-- Finding. The words under which a vinyl is found, with those of every entry that was merged into it.
create table vinyl_words (
  vinyl_id uuid primary key references vinyl,
  words text not null
);
create index vinyl_words_trigrams on vinyl_words using gin (words gin_trgm_ops);

create function vinyl_words_of(wanted uuid) returns text language sql stable as $$
  select lower(concat_ws(' ', v.brand, v.name, replace(v.type, '-', ' '),
    (select string_agg(c.name, ' ') from colour c where c.vinyl_id = v.id),
    (select string_agg(concat_ws(' ', o.brand, o.name), ' ') from vinyl_alias a join vinyl o on o.id = a.alias_id where a.vinyl_id = v.id)))
    from vinyl v where v.id = wanted
$$;
create function keep_vinyl_words() returns trigger language plpgsql as $$
declare
  touched uuid := case tg_table_name when 'vinyl' then (to_jsonb(coalesce(new, old)) ->> 'id')::uuid
    else (to_jsonb(coalesce(new, old)) ->> 'vinyl_id')::uuid end;
begin
  insert into vinyl_words (vinyl_id, words) values (touched, vinyl_words_of(touched))
    on conflict (vinyl_id) do update set words = excluded.words;
  return null;
end $$;
create trigger vinyl_words_vinyl after insert or update on vinyl for each row execute function keep_vinyl_words();
create trigger vinyl_words_colour after insert or update or delete on colour for each row execute function keep_vinyl_words();
create trigger vinyl_words_alias after insert or update or delete on vinyl_alias for each row execute function keep_vinyl_words();
insert into vinyl_words select id, vinyl_words_of(id) from vinyl;

-- How well the words of a search fit: each against its best place in the text, so that neither their order nor a slip of the
-- finger matters: by trigrams, and for two letters that changed places in a short word, by edits. Null when one of them is found
-- nowhere.
create function fit_of_words(sought text[], words text) returns real language sql immutable as $$
  select case when bool_and(s >= 0.42) then avg(s)::real end
    from (select greatest(
                   case when strpos(words, w) > 0 then 1.0 else 0 end,
                   word_similarity(w, words),
                   case when length(w) between 4 and 20 then (
                     select max(case levenshtein_less_equal(w, t, 2) when 1 then 0.8 when 2 then case when length(w) > 4 then 0.5 else 0 end else 0 end)
                       from unnest(string_to_array(words, ' ')) as t where length(t) between 3 and 30 and left(t, 1) = left(w, 1))
                   else 0 end) as s
            from unnest(sought) as w) x
$$;
