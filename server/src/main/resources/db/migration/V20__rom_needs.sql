-- The least processor that an option ROM needs ('' where that was not looked at or it is none), and
-- the job whose machine it goes into.
alter table rom add column needs text not null default '';
alter table rom add column job_id bigint references job;
