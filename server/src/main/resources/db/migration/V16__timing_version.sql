-- A reading that was timed is taken out and put back like all else that people may want back.
alter table timing add column version bigint not null default 0;
alter table timing alter column version drop default;
