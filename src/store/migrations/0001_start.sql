-- Machines and filaments hold their description as JSON, checked on the way out.
create table machine (
  id integer primary key,
  body text not null,
  deleted_at text
) strict;

create table filament (
  id integer primary key,
  body text not null,
  deleted_at text
) strict;

-- A bench is one machine, one nozzle, one filament: what values are tuned for.
create table bench (
  id integer primary key,
  machine_id integer not null references machine (id),
  bore real not null check (bore > 0),
  filament_id integer not null references filament (id),
  created_at text not null,
  deleted_at text,
  unique (machine_id, bore, filament_id)
) strict;

create table ladder (
  id integer primary key,
  bench_id integer not null references bench (id),
  kind text not null,
  spec text not null,
  weights text not null,
  created_at text not null,
  deleted_at text
) strict;
create index ladder_of_bench on ladder (bench_id, id);

-- What was handed out is kept whole, so that it can be read back whatever the program becomes.
create table file (
  id integer primary key,
  ladder_id integer not null references ladder (id),
  name text not null,
  plan text not null,
  sha256 text not null,
  bytes integer not null,
  gcode blob not null,
  program text not null,
  made_at text not null,
  unique (ladder_id, sha256)
) strict;

create table print (
  id integer primary key,
  file_id integer not null references file (id),
  printed_at text not null,
  deleted_at text
) strict;
create index print_of_file on print (file_id);

create table reading (
  id integer primary key,
  print_id integer not null references print (id),
  reader text not null,
  started_at text not null,
  deleted_at text
) strict;
create index reading_of_print on reading (print_id);

-- Every tap is kept as an act; undo marks the newest act, the state is what the acts that stand add up to.
create table score_act (
  id integer primary key,
  reading_id integer not null references reading (id),
  rung integer not null check (rung >= 0),
  criterion text not null,
  score integer check (score between 0 and 4),
  at text not null,
  undone integer not null default 0 check (undone in (0, 1))
) strict;
create index act_of_reading on score_act (reading_id, id);

create table ledger (
  id integer primary key,
  bench_id integer not null references bench (id),
  setting text not null,
  value real not null,
  low real,
  high real,
  base text not null,
  ladder_id integer references ladder (id),
  found_at text not null,
  replaced_at text
) strict;
create unique index ledger_current on ledger (bench_id, setting) where replaced_at is null;

create table place (
  name text primary key,
  value text not null
) strict;
