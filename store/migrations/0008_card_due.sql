-- Cards on which something changed and whose standing and shared reading were not made again yet. Marked by the change itself, in its own
-- transaction: a crash between the two leaves the mark, and the next turn makes up for it.

create sequence card_due_turn;
create table card_due (
  card_id uuid primary key references card,
  -- Another change while it is made again raises this: the mark then stays.
  turn bigint not null,
  at timestamptz not null default now()
);
comment on table card_due is 'Cards whose standing and shared reading are behind.';

create function card_is_due(id uuid) returns void language sql as $$
  insert into card_due (card_id, turn) values (id, nextval('card_due_turn'))
    on conflict (card_id) do update set turn = excluded.turn, at = now()
$$;

create function card_changed() returns trigger language plpgsql as $$
begin
  perform card_is_due(new.id);
  return null;
end $$;
create function of_card_changed() returns trigger language plpgsql as $$
begin
  perform card_is_due(new.card_id);
  return null;
end $$;
create function confirmed_cell_graded() returns trigger language plpgsql as $$
begin
  perform card_is_due(n.card_id) from cell join confirmation n on n.cut_id = cell.cut_id where cell.id = new.cell_id;
  return null;
end $$;

create trigger card_due_version after insert on card_version for each row execute function of_card_changed();
create trigger card_due_confirmation after insert or update of outcome, better on confirmation
  for each row execute function of_card_changed();
create trigger card_due_shown after update of visibility, hidden_at on card for each row
  when (old.visibility <> new.visibility or old.hidden_at is distinct from new.hidden_at) execute function card_changed();
create trigger card_due_grade after insert on grade_event for each row execute function confirmed_cell_graded();

-- What was cut short before there were marks.
select card_is_due(id) from card where not exists (select from card_standing s where s.card_id = card.id);
