-- Every vinyl, every cutter: the catalogue with what is said of one vinyl, colours and batches, two entries of one vinyl, stock,
-- mats and presses, a scale on the tip, own models of cutters, imports, and finding among tens of thousands.

create extension if not exists unaccent;

-- The catalogue ----------------------------------------------------------------------------------------------------------

create table vinyl_type (
  id uuid primary key,
  person_id uuid not null references person,
  word text not null check (length(word) between 1 and 40),
  parent text not null check (length(parent) between 1 and 40),
  behaviour jsonb not null default '{}' check (jsonb_typeof(behaviour) = 'object'),
  made_at timestamptz not null default now()
);
create unique index vinyl_type_word on vinyl_type (person_id, lower(word));
comment on table vinyl_type is 'A type of somebody''s own. It inherits from a shipped one, which the prior of a fit goes by.';

alter table vinyl
  add column own_type uuid references vinyl_type,
  -- What is said of this vinyl beside what its type says; lengths in µm, heats in m°C.
  add column behaviour jsonb not null default '{}' check (jsonb_typeof(behaviour) = 'object'),
  add column nicknames text[] not null default '{}',
  -- Text of the codes on its packs.
  add column codes text[] not null default '{}',
  -- The sizes it is sold in, with prices in minor units.
  add column sizes jsonb not null default '[]' check (jsonb_typeof(sizes) = 'array'),
  add column note text not null default '' check (length(note) <= 2000);

create unique index batch_label on batch (vinyl_id, coalesce(colour_id, '00000000-0000-0000-0000-000000000000'), lower(label));

-- The same vinyl under two entries. A chain of aliases ends at its root; evidence of all of them counts as one.
create function vinyl_root(v uuid) returns uuid language plpgsql stable as $$
declare
  up uuid;
begin
  for i in 1..20 loop
    select a.vinyl_id into up from vinyl_alias a where a.alias_id = v;
    if up is null then return v; end if;
    v := up;
  end loop;
  return v;
end $$;
create function vinyl_kin(v uuid) returns setof uuid language sql stable rows 2 as $$
  with recursive down as (select vinyl_root(v) as id union select a.alias_id from down join vinyl_alias a on a.vinyl_id = down.id)
  select id from down
$$;
-- The same colour under two entries of one vinyl: the one that was there first stands for all of that name.
create function colour_root(c uuid) returns uuid language sql stable as $$
  select o.id from colour o
   where o.vinyl_id in (select vinyl_kin(k.vinyl_id) from colour k where k.id = c)
     and lower(o.name) = (select lower(k.name) from colour k where k.id = c)
   order by o.id limit 1
$$;

-- A number may be kept for one colour of a vinyl: colours of one line differ.
drop index setting_current;
-- Until now a number was kept for a vinyl whatever its colour.
update setting set colour_id = null;
create unique index setting_current on setting
  (person_id, vinyl_id, cutter_id, wanted, coalesce(colour_id, '00000000-0000-0000-0000-000000000000')) where replaced_at is null;

-- What somebody has in hand: used, pinned, held. Lists begin with it.
create table vinyl_mine (
  person_id uuid not null references person,
  vinyl_id uuid not null references vinyl,
  used_at timestamptz,
  pinned_at timestamptz,
  primary key (person_id, vinyl_id)
);
create index vinyl_mine_recent on vinyl_mine (person_id, pinned_at desc nulls last, used_at desc nulls last);
create function keep_vinyl_mine() returns trigger language plpgsql as $$
declare
  row jsonb := to_jsonb(new);
begin
  insert into vinyl_mine (person_id, vinyl_id, used_at)
  values (new.person_id, vinyl_root((row ->> case tg_table_name when 'vinyl' then 'id' else 'vinyl_id' end)::uuid),
    coalesce(row ->> 'created_at', row ->> 'kept_at', row ->> 'made_at')::timestamptz)
  on conflict (person_id, vinyl_id) do update set used_at = greatest(vinyl_mine.used_at, excluded.used_at);
  return null;
end $$;
create trigger vinyl_mine_vinyl after insert on vinyl for each row execute function keep_vinyl_mine();
create trigger vinyl_mine_cut after insert on cut for each row execute function keep_vinyl_mine();
create trigger vinyl_mine_setting after insert on setting for each row execute function keep_vinyl_mine();
insert into vinyl_mine (person_id, vinyl_id, used_at)
  select person_id, vinyl_id, max(at) from (
    select person_id, id as vinyl_id, created_at as at from vinyl
    union all select person_id, vinyl_id, created_at from cut
    union all select person_id, vinyl_id, kept_at from setting) x group by 1, 2;

-- Which of two ways a person follows, for a vinyl.
create table school (
  person_id uuid not null references person,
  vinyl_id uuid not null references vinyl,
  topic text not null check (topic in ('press', 'cut')),
  way text not null check (length(way) between 1 and 40),
  at timestamptz not null default now(),
  primary key (person_id, vinyl_id, topic)
);
create index school_vinyl on school (vinyl_id, topic, way);

-- Finding ----------------------------------------------------------------------------------------------------------------

-- Words without accents, apostrophes and punctuation, each between two blanks.
create function plain_words(t text) returns text language sql stable as $$
  select ' ' || btrim(regexp_replace(regexp_replace(lower(unaccent(t)), '[''’]', '', 'g'),
    '[\s!-/:-@\[-`{-~·–—]+', ' ', 'g')) || ' '
$$;

drop trigger vinyl_words_vinyl on vinyl;
drop trigger vinyl_words_colour on colour;
drop trigger vinyl_words_alias on vinyl_alias;
drop function keep_vinyl_words();
drop function vinyl_words_of(uuid);
alter table vinyl_words
  add column owner uuid references person,
  add column open boolean not null default false,
  -- What tables are sorted by.
  add column name text not null default '',
  add column type text not null default '',
  add column made_at timestamptz;

-- One row a vinyl that is not merged into another, with the words of all that were merged into it and may be seen with it.
create function refresh_vinyl_words(touched uuid) returns void language plpgsql as $$
declare
  root uuid := vinyl_root(touched);
begin
  if exists (select 1 from vinyl_alias where vinyl_id = root) then
    delete from vinyl_words where vinyl_id in (select vinyl_kin(root)) and vinyl_id <> root;
  end if;
  insert into vinyl_words (vinyl_id, words, owner, open, name, type, made_at)
  select v.id,
    plain_words(concat_ws(' ', v.brand, v.name, replace(v.type, '-', ' '),
      (select string_agg(concat_ws(' ', o.brand, o.name, t.word, array_to_string(o.nicknames, ' '), array_to_string(o.codes, ' '),
          (select string_agg(c.name, ' ') from colour c where c.vinyl_id = o.id),
          (select string_agg(b.label, ' ') from batch b where b.vinyl_id = o.id)), ' ')
         from vinyl o left join vinyl_type t on t.id = o.own_type
        where o.id in (select vinyl_kin(v.id)) and (o.id = v.id or o.visibility = 'public' or o.person_id = v.person_id)))),
    v.person_id, v.visibility = 'public', left(lower(concat_ws(' ', v.brand, v.name)), 200), v.type, v.created_at
    from vinyl v where v.id = root
  on conflict (vinyl_id) do update
    set words = excluded.words, owner = excluded.owner, open = excluded.open, name = excluded.name, type = excluded.type;
  insert into vinyl_token select distinct t from vinyl_words w, unnest(string_to_array(btrim(w.words), ' ')) t
    where w.vinyl_id = root and length(t) between 2 and 40 on conflict do nothing;
end $$;

-- Every word that stands in any of them: what a misspelt word may have meant. It says nothing about who wrote it.
create table vinyl_token (
  token text primary key check (length(token) between 2 and 40)
);
create index vinyl_token_start on vinyl_token (left(token, 1), length(token));
create index vinyl_token_trigrams on vinyl_token using gin (token gin_trgm_ops);

create function keep_vinyl_words() returns trigger language plpgsql as $$
declare
  row jsonb := to_jsonb(coalesce(new, old));
begin
  -- Thousands at once: whoever brings them in writes their words at the end.
  if current_setting('versipel.many', true) = 'on' then return null; end if;
  if tg_table_name = 'vinyl_alias' then
    perform refresh_vinyl_words((row ->> 'alias_id')::uuid);
    perform refresh_vinyl_words((row ->> 'vinyl_id')::uuid);
    if tg_op = 'INSERT' then
      insert into vinyl_mine (person_id, vinyl_id, used_at, pinned_at)
      select person_id, vinyl_root(new.vinyl_id), used_at, pinned_at from vinyl_mine where vinyl_id = new.alias_id
      on conflict (person_id, vinyl_id) do update set used_at = greatest(vinyl_mine.used_at, excluded.used_at),
        pinned_at = coalesce(vinyl_mine.pinned_at, excluded.pinned_at);
    end if;
  else
    perform refresh_vinyl_words((row ->> case tg_table_name when 'vinyl' then 'id' else 'vinyl_id' end)::uuid);
  end if;
  return null;
end $$;
create trigger vinyl_words_vinyl after insert or update on vinyl for each row execute function keep_vinyl_words();
create trigger vinyl_words_colour after insert or update or delete on colour for each row execute function keep_vinyl_words();
create trigger vinyl_words_batch after insert or update or delete on batch for each row execute function keep_vinyl_words();
create trigger vinyl_words_alias after insert or update or delete on vinyl_alias for each row execute function keep_vinyl_words();
delete from vinyl_words;
select refresh_vinyl_words(id) from vinyl;
create index vinyl_words_open on vinyl_words (name, vinyl_id) where open;
create index vinyl_words_owner on vinyl_words (owner);
create index vinyl_words_name on vinyl_words (name, vinyl_id);
create index vinyl_words_type on vinyl_words (type, vinyl_id);
create index vinyl_words_made on vinyl_words (made_at, vinyl_id);

-- How well one word of a search fits the words of a vinyl: as a word of its own, as the beginning of one, within one; `near`
-- are words of the catalogue that it may have meant, with how well it fits them.
create function word_fit(w text, words text, near text[], fits real[]) returns real language sql immutable as $$
  select greatest(
    case when strpos(words, ' ' || w || ' ') > 0 then 1.0 when strpos(words, ' ' || w) > 0 then 0.95 when strpos(words, w) > 0 then 0.8 else 0 end,
    (select max(fits[i]) from generate_subscripts(near, 1) i where strpos(words, ' ' || near[i] || ' ') > 0))::real
$$;

-- Words of the catalogue that a misspelt one may have meant, the likeliest first: by edits (two letters that changed places are
-- two edits to Levenshtein, so two are allowed), also against the beginning of a word that is still being typed, and by trigrams.
create function words_near(w text, most int) returns table (token text, fit real) language sql stable as $$
  select token, max(fit)::real as fit from (
    select t.token, case least(levenshtein_less_equal(w, t.token, 2),
        case when length(t.token) > length(w) and length(w) >= 4 then levenshtein_less_equal(w, left(t.token, length(w)), 2) else 3 end)
      when 0 then 0.9 when 1 then 0.75 when 2 then case when length(w) > 4 then 0.55 else 0 end else 0 end as fit
      from vinyl_token t
     where left(t.token, 1) = left(w, 1) and length(t.token) between greatest(3, length(w) - 2) and length(w) + 12 and length(w) between 4 and 30
    union all
    select t.token, 0.6 * similarity(t.token, w) from vinyl_token t where t.token % w and length(w) >= 3
  ) x where fit >= 0.3 group by token order by 2 desc, 1 limit most
$$;

-- Vinyls that fit every word of a search, of those a person may see, the best first; what is pinned or was used lately is lifted
-- a little. Not thorough: each word as it stands. Thorough: what it may have meant, too. The query is put together so that the
-- planner sees each pattern and takes the trigram index.
create function vinyls_found(sought text[], me uuid, thorough boolean, most int)
returns table (vinyl_id uuid, fit real) language plpgsql stable
-- The index lies in memory: a page of it costs hardly more than the next one.
set random_page_cost = 1.1 as $$
declare
  filter text := '';
  score text := '';
  w text;
  near text[];
  fits real[];
begin
  foreach w in array sought loop
    near := '{}';
    fits := '{}';
    if thorough then
      select coalesce(array_agg(n.token), '{}'), coalesce(array_agg(n.fit), '{}') into near, fits from words_near(w, 12) n;
    end if;
    filter := filter || format(' and (w.words like %L%s)',
      case when length(w) < 3 then '% ' || w || '%' else '%' || w || '%' end,
      (select coalesce(string_agg(format(' or w.words like %L', '% ' || n || ' %'), ''), '') from unnest(near) n));
    score := score || format(' + word_fit(%L, w.words, %L, %L)', w, near, fits);
  end loop;
  return query execute format(
    'select x.vinyl_id, x.fit from (
       select w.vinyl_id, ((0%s) / %s - least(length(w.words), 400) * 0.0001 + case when m.pinned_at is not null then 0.12
           when m.used_at is not null then 0.08 else 0 end)::real as fit, m.used_at, w.name
         from vinyl_words w left join vinyl_mine m on m.person_id = $1 and m.vinyl_id = w.vinyl_id
        where (w.open or w.owner = $1 or m.vinyl_id is not null)%s) x
      order by x.fit desc, x.used_at desc nulls last, x.name, x.vinyl_id limit $2',
    score, greatest(1, cardinality(sought)), filter) using me, most;
end $$;

-- The workshop -----------------------------------------------------------------------------------------------------------

create table model_owner (
  key text primary key,
  person_id uuid not null references person
);
create index model_owner_person on model_owner (person_id);
comment on table model_owner is 'Whose own model of a cutter it is; shipped ones stand here not at all.';
-- Small enough for lists: what a strip and its number need of a fit.
alter table posterior add column shown jsonb;

alter table blade add column offset_um integer not null default 250 check (offset_um between 0 and 2000);

-- Metres a blade has run, a row for each type of vinyl: grain dulls it faster than plain film. Counted as passes come in.
create table blade_run (
  blade_id uuid not null references blade,
  type text not null,
  run_um bigint not null default 0,
  primary key (blade_id, type)
);
create function count_blade_run() returns trigger language plpgsql as $$
begin
  insert into blade_run (blade_id, type, run_um)
  select n.blade_id, v.type, ce.length_um * greatest(0, new.passes - coalesce((
      select max(e.passes) from cell_cut_event e where e.cell_id = new.cell_id and e.id <> new.id), 0))
    from cell ce join cut c on c.id = ce.cut_id join mounting n on n.id = c.mounting_id join vinyl v on v.id = c.vinyl_id
   where ce.id = new.cell_id
  on conflict (blade_id, type) do update set run_um = blade_run.run_um + excluded.run_um;
  return null;
end $$;
create trigger blade_run_count after insert on cell_cut_event for each row execute function count_blade_run();
insert into blade_run (blade_id, type, run_um)
  select n.blade_id, v.type, sum(ce.length_um * e.passes)
    from cell ce join cut c on c.id = ce.cut_id join mounting n on n.id = c.mounting_id join vinyl v on v.id = c.vinyl_id
    join (select cell_id, max(passes) as passes from cell_cut_event group by cell_id) e on e.cell_id = ce.id
   group by 1, 2;

create table scale_reading (
  id uuid primary key,
  cutter_id uuid not null references cutter,
  position integer not null,
  milligrams integer not null check (milligrams between 1000 and 5000000),
  at timestamptz not null default now(),
  unique (cutter_id, position)
);
comment on table scale_reading is 'What a kitchen scale showed under the tip, at one place of the strength axis.';

create table mat (
  id uuid primary key,
  person_id uuid not null references person,
  name text not null check (length(name) between 1 and 80),
  grip text not null check (grip in ('light', 'ordinary', 'high')),
  width_um integer not null check (width_um between 50000 and 2000000),
  length_um integer not null check (length_um between 50000 and 5000000),
  loads_before integer not null default 0 check (loads_before between 0 and 10000),
  washed_at timestamptz not null default now(),
  washes integer not null default 0 check (washes >= 0),
  made_at timestamptz not null default now(),
  retired_at timestamptz
);
create index mat_person on mat (person_id) where retired_at is null;
alter table bench add column mat_id uuid references mat;
alter table cut add column mat_id uuid references mat;
create index cut_mat on cut (mat_id, created_at) where mat_id is not null;

create table press (
  id uuid primary key,
  person_id uuid not null references person,
  name text not null check (length(name) between 1 and 80),
  kind text not null check (kind in ('plate', 'hand press', 'cap press', 'iron')),
  width_um integer not null check (width_um between 20000 and 2000000),
  length_um integer not null check (length_um between 20000 and 2000000),
  hottest integer not null check (hottest between 100000 and 300000),
  shows text not null check (shows in ('C', 'F')),
  -- What its plate really has against what it shows, m°C: measured, or none.
  off integer not null default 0 check (off between -60000 and 60000),
  made_at timestamptz not null default now(),
  retired_at timestamptz
);
create index press_person on press (person_id) where retired_at is null;

-- Stock ------------------------------------------------------------------------------------------------------------------

create table stock (
  id uuid primary key,
  -- Short enough for a label and to be typed.
  code text not null unique check (code ~ '^[a-z2-9]{6,10}$'),
  person_id uuid not null references person,
  vinyl_id uuid not null references vinyl,
  colour_id uuid references colour,
  batch_id uuid references batch,
  kind text not null check (kind in ('roll', 'sheet', 'offcut', 'transfer')),
  width_um integer not null check (width_um between 5000 and 5000000),
  length_um bigint not null check (length_um between 5000 and 100000000),
  -- What the whole piece cost, in minor units of its currency.
  price_minor integer check (price_minor >= 0),
  currency text check (currency ~ '^[A-Z]{3}$'),
  from_id uuid references stock,
  -- How many weeded transfers of a kind lie together.
  pieces integer not null default 1 check (pieces between 1 and 10000),
  note text not null default '' check (length(note) <= 200),
  made_at timestamptz not null default now(),
  gone_at timestamptz,
  check ((price_minor is null) = (currency is null))
);
create index stock_person on stock (person_id, made_at desc) where gone_at is null;
create index stock_vinyl on stock (vinyl_id) where gone_at is null;
create trigger vinyl_mine_stock after insert on stock for each row execute function keep_vinyl_mine();

create table stock_take (
  id uuid primary key,
  stock_id uuid not null references stock,
  cut_id uuid references cut,
  length_um bigint not null check (length_um > 0),
  at timestamptz not null default now(),
  undone_at timestamptz
);
create index stock_take_stock on stock_take (stock_id) where undone_at is null;
create unique index stock_take_once on stock_take (cut_id) where cut_id is not null and undone_at is null;
comment on table stock_take is 'A strip taken off the length of a piece: by a cut, or by hand. Put back by undoing it.';

-- Imports ----------------------------------------------------------------------------------------------------------------

create table import (
  id uuid primary key,
  person_id uuid not null references person,
  file_name text not null check (length(file_name) between 1 and 200),
  -- The file as it was read: headings and rows, with the line each began on.
  content jsonb not null,
  mapping jsonb not null,
  state text not null default 'seen' check (state in ('seen', 'done', 'undone')),
  -- What was done, in numbers and by line.
  report jsonb,
  at timestamptz not null default now(),
  done_at timestamptz
);
create index import_person on import (person_id, at desc);
alter table vinyl add column import_id uuid references import;
create index vinyl_import on vinyl (import_id) where import_id is not null;
create index vinyl_same_name on vinyl (person_id, lower(brand), lower(name));
