-- What a crossing is called follows from what it goes to, which can change.
alter table crossing drop column name;
