-- Ways of pressing have keys: a place in a list says another way once the list changes. A choice that no longer exists goes, and whoever made it
-- is told once.
alter table notice drop constraint notice_kind_check;
alter table notice add constraint notice_kind_check
  check (kind in ('question', 'answer', 'best', 'standing', 'hidden', 'report', 'way gone'));

with keys (type, place, key) as (values
    ('smooth', '1', '305 10-15'), ('smooth', '2', '350 30'), ('smooth', '3', '315 30'), ('smooth', '5', '330 30'),
    ('glitter', '1', '325'), ('flock', '1', 'iron 30'), ('puff', '1', '280 8 once'),
    ('metallic-puff', '1', 'tack-cold-raise'), ('metallic-puff', '2', 'short-warm-raise'),
    ('holographic', '1', '320 15-20'), ('holographic', '2', '330 30'),
    ('printable', '1', 'cover cools'), ('printable', '2', 'cover at once'), ('glitter-printable', '1', '310-330 15-20'),
    ('matless', '1', '315 30'), ('low-heat', '1', '265 5 and covered')),
  chosen as (
    select s.person_id, s.vinyl_id, s.way, v.type, coalesce(
        case when v.behaviour ? 'press' then v.behaviour -> 'press' else t.behaviour -> 'press' end, 'null') as own
      from school s join vinyl v on v.id = s.vinyl_id left join vinyl_type t on t.id = v.own_type
     where s.topic = 'press' and s.way ~ '^[0-9]+$'),
  now as (
    select c.person_id, c.vinyl_id, c.way, case
        -- A list of its own keeps its places: they are the keys of ways that somebody wrote without one.
        when jsonb_typeof(c.own) = 'array' then
          case when coalesce(c.own -> (c.way::int - 1) ->> 'purpose', 'full') = 'full' and c.way::int between 1 and jsonb_array_length(c.own)
               then 'way ' || c.way end
        else k.key end as key
      from chosen c left join keys k on k.type = c.type and k.place = c.way),
  told as (
    insert into notice (id, person_id, kind, vinyl_id)
    select gen_random_uuid(), person_id, 'way gone', vinyl_id from now where key is null),
  gone as (
    delete from school s using now n
     where n.key is null and s.person_id = n.person_id and s.vinyl_id = n.vinyl_id and s.topic = 'press')
update school s set way = n.key from now n
 where n.key is not null and s.person_id = n.person_id and s.vinyl_id = n.vinyl_id and s.topic = 'press';

-- What one's squares found for a vinyl on a surface: an answer before anybody keeps it as a recipe. No way: they were read, and found none.
create table swatch_found (
  person_id uuid not null references person,
  vinyl_id uuid not null references vinyl,
  surface text not null,
  press_id uuid references press,
  way jsonb check (jsonb_typeof(way) = 'object'),
  read_at timestamptz not null default now(),
  primary key (person_id, vinyl_id, surface)
);
comment on table swatch_found is 'Made anew from the cards whenever one is graded or put away; a row that is missing is made up for.';

-- The presses of a film as they were shown, each with its source. Of older rows the way alone is known.
alter table press_outcome add column presses jsonb check (jsonb_typeof(presses) = 'array');
