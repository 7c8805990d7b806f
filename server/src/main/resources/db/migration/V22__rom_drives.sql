-- How many drives the build of an option ROM serves, as its papers say; 0 where that is not known.
alter table rom add column drives integer not null default 0;
