-- What a machine did to the finished card since it was written, as JSON; '' where nobody looked.
alter table job add column since_written text not null default '';
