-- The device node where a medium is a real one; '' for what lies on the shelf.
alter table medium add column node text not null default '';
update medium set node = serial where kind = 'DEVICE';
