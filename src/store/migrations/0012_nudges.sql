-- What was nudged by hand while a first layer printed: by how much, what all came to, and where it took effect.
create table nudge (
  id integer primary key,
  job_id integer not null references job (id),
  line integer not null,
  mm real not null,
  total real not null,
  x real,
  y real,
  at text not null
) strict;
create index nudge_of_job on nudge (job_id, id);

-- What nudges come to that were not taken back, mm upward.
alter table job add column nudged real not null default 0;

-- What a simulated machine had in force when it began to print, as JSON by setting.
alter table job add column had text;
