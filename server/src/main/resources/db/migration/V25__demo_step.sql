-- What of the demonstration was laid out, so that a start which was cut off goes on and makes nothing twice.
create table demo_step (
  name varchar(200) primary key,
  made bigint not null
);
