-- Crafters go several ways in more than press and number: the mat, weeding, the cover, the margin, what lifts, what follows the peel.
alter table school drop constraint school_topic_check;
alter table school add constraint school_topic_check
  check (topic in ('press', 'cut', 'peel', 'mat', 'weeding', 'cover', 'margin', 'lifts', 'after'));

-- Ways of pressing are known by their place in the list of a type. Three lists of shipped types changed: for glitter printables the cooler
-- way is the usual one now; of plain printables the second way was that of the glitter ones, and of flat films the first was only a tack.
update school s set way = case s.way when '1' then '2' else '1' end
  from vinyl v where v.id = s.vinyl_id and s.topic = 'press' and v.type = 'glitter-printable' and not v.behaviour ? 'press' and s.way in ('1', '2');
delete from school s using vinyl v
 where v.id = s.vinyl_id and s.topic = 'press' and not v.behaviour ? 'press'
   and ((v.type = 'printable' and s.way = '2') or (v.type in ('smooth-glitter', 'foil', 'reflective', 'faux-leather')));

-- A reading is for one blade, as worn as it is: where the blade on the cutter is another or has worn on, it is made again.
alter table reading add column blade_id uuid references blade, add column wear real;

-- What a setting's proof says is said in other words now: the recurring work makes each anew.
update setting set proof = null where replaced_at is null;
create index setting_unproven on setting (person_id) where proof is null and replaced_at is null;

-- What a blade moved when it was put on: vinyl, number before and after, as places on the cutter's axis.
alter table mounting add column moved jsonb not null default '[]' check (jsonb_typeof(moved) = 'array');
