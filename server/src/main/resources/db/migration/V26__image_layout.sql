-- How an image lies where nothing on it says so and somebody did, as --layout takes it; '' where nobody said.
alter table image add column layout varchar(200) not null default '';
