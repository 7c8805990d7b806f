-- What a person wished of a rescue; it may change while it runs.
alter table work add column wish text not null default '';
