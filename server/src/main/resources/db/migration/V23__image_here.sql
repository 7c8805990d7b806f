-- Whether the bytes of an image still lie on the shelf; of one whose room was got back its row stays.
alter table image add column here boolean not null default true;
