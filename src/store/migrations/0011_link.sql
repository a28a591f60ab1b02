-- How each machine is reached; `simulated` names the understudy behind it, with the seed of what is hidden in it.
create table wire (
  machine_id integer primary key references machine (id),
  address text not null,
  simulated text,
  -- A hot machine that nobody touches is switched off after so long.
  idle_min integer not null default 10 check (idle_min between 1 and 240),
  at text not null
) strict;

-- Files on their way to a machine, and how they ended. Kept by the link, which knows nothing of what they are.
create table job (
  id integer primary key,
  machine_id integer not null references machine (id),
  file_id integer references file (id),
  kept_id integer references kept (id),
  name text not null,
  state text not null,
  line integer not null default 0,
  sure integer not null default 0,
  lines integer not null,
  why text,
  -- Temperatures on the way, as JSON: seconds since the start, nozzle, its target, bed, its target.
  heat text not null default '[]',
  simulated text,
  started_at text not null,
  ended_at text,
  print_id integer references print (id)
) strict;
create index job_of_machine on job (machine_id, id);

-- What was put into a machine and when, and what stood there before.
create table put (
  id integer primary key,
  machine_id integer not null references machine (id),
  setting text not null,
  value real not null,
  before real,
  stored integer not null default 0 check (stored in (0, 1)),
  simulated integer not null default 0 check (simulated in (0, 1)),
  at text not null,
  taken_back_at text
) strict;
create index put_of_machine on put (machine_id, id);
