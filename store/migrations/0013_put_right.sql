-- Nothing a hand does is final: what is put away can be taken up again, and a cut that says nothing true is left out of the count.

-- A vinyl is put away for one person: it may be somebody else's.
alter table vinyl_mine add column away_at timestamptz;
-- Whoever cuts it again has taken it up again.
create or replace function keep_vinyl_mine() returns trigger language plpgsql as $$
declare
  row jsonb := to_jsonb(new);
begin
  insert into vinyl_mine (person_id, vinyl_id, used_at)
  values (new.person_id, vinyl_root((row ->> case tg_table_name when 'vinyl' then 'id' else 'vinyl_id' end)::uuid),
    coalesce(row ->> 'created_at', row ->> 'kept_at', row ->> 'made_at')::timestamptz)
  on conflict (person_id, vinyl_id) do update set used_at = greatest(vinyl_mine.used_at, excluded.used_at), away_at = null;
  return null;
end $$;
alter table colour add column retired_at timestamptz;
alter table blade add column retired_at timestamptz;
alter table vinyl_type add column retired_at timestamptz;

-- A cut that was noted by mistake, or on the wrong vinyl: its grades stay and count for nothing.
alter table cut add column left_out_at timestamptz;
update cut set left_out_at = o.dropped_at from ordinary_cut o where o.cut_id = cut.id and o.dropped_at is not null;
comment on column ordinary_cut.dropped_at is 'Written no more: cut.left_out_at says it. Goes with a later migration.';
create function confirmed_cut_left_out() returns trigger language plpgsql as $$
begin
  perform card_is_due(n.card_id) from confirmation n where n.cut_id = new.id;
  return null;
end $$;
create trigger card_due_left_out after update of left_out_at on cut for each row
  when (old.left_out_at is distinct from new.left_out_at) execute function confirmed_cut_left_out();

-- A cell that nobody cut or graded goes with its coupon: what was cut or graded holds it by its keys. What is in a cell still never changes.
drop trigger cell_fixed on cell;
create trigger cell_fixed before update on cell for each row execute function refuse_change();

-- Who wrote a question or an answer can say it better, or take it back.
alter table remark add column changed_at timestamptz, add column taken_back_at timestamptz;

-- Numbers from somebody's old spreadsheet are drafts, and go with the table when it is taken back.
alter table setting add column import_id uuid references import;
create index setting_import on setting (import_id) where import_id is not null;
