-- Since when a medium is overwritten, wholly or in part, by wiping; null where it is not.
alter table medium add column overwritten timestamptz;
