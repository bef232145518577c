-- A test cut that was made for a job leads back to it.
alter table coupon add column job_id uuid references job (id) on delete set null;
create index on coupon (job_id) where job_id is not null;
