-- Files from elsewhere that are kept with a bench, whole and compressed.
create table kept (
  id integer primary key,
  bench_id integer not null references bench (id),
  name text not null,
  sha256 text not null,
  bytes integer not null,
  gcode blob not null,
  kept_at text not null,
  deleted_at text,
  unique (bench_id, sha256)
) strict;
create index kept_of_bench on kept (bench_id, id);
