-- What a device said of itself, so that another at the same node is known; what a card holds by its last read-back.
alter table medium add column identity text not null default '';
alter table medium add column holds_image bigint references image;

-- Taken off the bench or the shelf, with a way back.
alter table job add column removed boolean not null default false;
alter table medium add column removed boolean not null default false;
alter table image add column removed boolean not null default false;

-- The job list asks for these.
create index job_by_card on job (card_id);
create index work_by_job on work (job_id);

-- What the fault board groups parts by itself; how often a test worked of how many tries.
alter table fault_part add column made int not null default 0;
alter table fault_part add column megabytes int not null default 0;
alter table fault_part add column tenths_of_volt int not null default 0;
alter table fault_trial add column worked int not null default 0;
alter table fault_trial add column tries int not null default 0;

-- What was noticed when an image was brought in: nothing on it is known, it is shorter than it says.
alter table medium add column remark text not null default '';
