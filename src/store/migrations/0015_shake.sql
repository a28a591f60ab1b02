-- What was found by shaking an axis, or from the distance of echoes on a print; the samples themselves are not kept.
create table shake (
  id integer primary key,
  bench_id integer not null references bench (id),
  axis text not null check (axis in ('x', 'y', 'diagonals')),
  name text not null,
  found text not null,
  -- The understudy that was shaken, as JSON; null for a real machine.
  simulated text,
  -- The run over the wire that it was recorded in.
  job_id integer unique references job (id),
  taken_at text not null,
  deleted_at text
) strict;
create index shake_of_bench on shake (bench_id, id);

-- Kept files that shake a machine, and along what.
create table shake_file (
  kept_id integer primary key references kept (id),
  axis text not null
) strict;

alter table ledger add column shake_id integer references shake (id);
create index ledger_of_shake on ledger (shake_id);
