-- "Job" is the word for the whole of a piece of work, from the blank to the wash. An ordinary cut is called what it is.
alter table job rename to ordinary_cut;
alter table ordinary_cut rename constraint job_pkey to ordinary_cut_pkey;
alter table cut drop constraint cut_kind_check;
update cut set kind = 'ordinary' where kind = 'job';
alter table cut add constraint cut_kind_check check (kind in ('coupon', 'ordinary'));
comment on table cut is 'One occasion: what was cut, on which cutter, with which blade. A coupon or an ordinary cut.';
