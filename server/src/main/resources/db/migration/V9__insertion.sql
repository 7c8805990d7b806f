-- Which putting-in of a real card a person confirmed before it was written over; '' for none.
alter table medium add column insertion text not null default '';
