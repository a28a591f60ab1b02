-- Prints on a simulated machine are marked for good; what it was, as JSON. Null: a real print.
alter table print add column simulated text;

create table print_picture (
  print_id integer primary key references print (id),
  png blob not null
) strict;

-- A value that only a simulated machine has shown.
alter table ledger add column simulated integer not null default 0 check (simulated in (0, 1));
