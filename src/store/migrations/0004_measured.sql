-- Numbers that were measured on a print: several readings of a measure, in the order in which they were entered.
create table measured (
  reading_id integer not null references reading (id),
  key text not null,
  place integer not null check (place >= 0),
  value real not null,
  at text not null,
  primary key (reading_id, key, place)
) strict, without rowid;
