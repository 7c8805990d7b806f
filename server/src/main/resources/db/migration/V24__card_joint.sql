-- Which connector a card is made for, by the key of the joint; '' where nobody said.
alter table medium add column joint varchar(40) not null default '';
