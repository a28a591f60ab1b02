-- Ladders that were made of a file that somebody sliced: the file, kept whole, and what was asked for.
create table graft (
  ladder_id integer primary key references ladder (id),
  kept_id integer not null references kept (id),
  wish text not null
) strict;
create index graft_of_kept on graft (kept_id);
