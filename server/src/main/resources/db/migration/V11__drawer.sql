-- The parts drawer: how many of each kind lie where, and kinds that people added; and which chain of
-- parts a job takes from the board to the card, '' for none yet.
create table drawer (
  key     text   primary key,
  version bigint not null,
  count   int    not null check (count between 0 and 100000),
  lies    text   not null,
  piece   text   not null
);
alter table job add column chain text not null default '';
