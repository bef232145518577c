-- How wide a cutter cuts, where its owner knows better than its model.
alter table cutter add column usable_width_um int check (usable_width_um between 50000 and 3000000);
