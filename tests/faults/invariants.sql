-- What must hold after any number of kills. $1: ids of every event the server has acknowledged; $2: ids of every event that was
-- ever sent. Each row is a violation; no rows is the only good answer.
with acknowledged as (select unnest($1::uuid[]) as id),
     sent as (select unnest($2::uuid[]) as id),
     stored as (select id, cell_id, device_id, device_at from grade_event union all select id, cell_id, device_id, device_at from cell_cut_event)
select 'acknowledged but missing' as violation, a.id::text as what
  from acknowledged a where not exists (select 1 from stored s where s.id = a.id)
union all
select 'stored but never sent', s.id::text from stored s where not exists (select 1 from sent where sent.id = s.id)
union all
select 'stored twice', s.id::text from stored s group by s.id having count(*) > 1
union all
select 'two events of one device at one moment on one cell', string_agg(s.id::text, ' ')
  from stored s group by s.cell_id, s.device_id, s.device_at having count(*) > 1
union all
select 'a grade on a cell that is not there', e.id::text
  from grade_event e where not exists (select 1 from cell where cell.id = e.cell_id)
union all
select 'a pass claimed twice on a line', cell_id::text || ' ' || pass
  from device_cell where state <> 'not cut' group by cell_id, pass having count(*) > 1
union all
select 'a pass said to be cut, but not counted', d.cell_id::text || ' ' || d.pass
  from device_cell d where d.state = 'cut'
   and not exists (select 1 from cell_cut_event e where e.cell_id = d.cell_id and e.passes = d.pass)
union all
select 'graded, and the reading was made before it', r.vinyl_id::text
  from reading r join cut on (cut.person_id, cut.vinyl_id, cut.cutter_id) = (r.person_id, r.vinyl_id, r.cutter_id)
  join cell on cell.cut_id = cut.id join grade_event e on e.cell_id = cell.id
 where e.received_at > r.read_at
union all
select 'graded, and never read', cut.vinyl_id::text
  from grade_event e join cell on cell.id = e.cell_id join cut on cut.id = cell.cut_id
 where not exists (
   select 1 from reading r where (r.person_id, r.vinyl_id, r.cutter_id) = (cut.person_id, cut.vinyl_id, cut.cutter_id));
