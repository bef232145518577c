-- Passes come many in one statement: a blade has run each cell's furthest pass of the statement, less the furthest there was before it. (A trigger
-- a row sees the whole statement from each of its rows, and would count a cell told of twice only once.)
create or replace function count_blade_run() returns trigger language plpgsql as $$
begin
  insert into blade_run (blade_id, type, run_um)
  select n.blade_id, v.type, sum(ce.length_um * greatest(0, told.passes - coalesce((
      select max(e.passes) from cell_cut_event e where e.cell_id = told.cell_id and e.id not in (select f.id from fresh f)), 0)))
    from (select f.cell_id, max(f.passes) as passes from fresh f group by f.cell_id) told
    join cell ce on ce.id = told.cell_id join cut c on c.id = ce.cut_id
    join mounting n on n.id = c.mounting_id join vinyl v on v.id = c.vinyl_id
   group by n.blade_id, v.type
   order by n.blade_id, v.type
  on conflict (blade_id, type) do update set run_um = blade_run.run_um + excluded.run_um;
  return null;
end $$;
drop trigger blade_run_count on cell_cut_event;
create trigger blade_run_count after insert on cell_cut_event
  referencing new table as fresh for each statement execute function count_blade_run();
