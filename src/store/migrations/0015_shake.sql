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

-- Machines as they were set up before shapers had a kind, and an axis of their own: the usual rows of today, where nobody
-- changed those of then.
update machine set body = json_set(body,
  '$.dialect.shaper', '',
  '$.dialect.shaperX', 'SET_INPUT_SHAPER SHAPER_TYPE_X={type_x:zv|zvd|mzv|ei|2hump_ei|3hump_ei} SHAPER_FREQ_X={frequency_x} DAMPING_RATIO_X={damping_x}',
  '$.dialect.shaperY', 'SET_INPUT_SHAPER SHAPER_TYPE_Y={type_y:zv|zvd|mzv|ei|2hump_ei|3hump_ei} SHAPER_FREQ_Y={frequency_y} DAMPING_RATIO_Y={damping_y}',
  '$.dialect.file.shaper', '',
  '$.dialect.file.shaperX', 'shaper_type_x: {type_x:zv|zvd|mzv|ei|2hump_ei|3hump_ei}, shaper_freq_x: {frequency_x}, damping_ratio_x: {damping_x}',
  '$.dialect.file.shaperY', 'shaper_type_y: {type_y:zv|zvd|mzv|ei|2hump_ei|3hump_ei}, shaper_freq_y: {frequency_y}, damping_ratio_y: {damping_y}')
 where body ->> '$.dialect.shaper' = 'SET_INPUT_SHAPER SHAPER_FREQ_X={frequency} SHAPER_FREQ_Y={frequency} DAMPING_RATIO_X={damping} DAMPING_RATIO_Y={damping}';
update machine set body = json_set(body, '$.dialect.shaper', 'M593 P"{type:|zvd|mzv||ei2|ei3}" F{frequency} S{damping}')
 where body ->> '$.dialect.shaper' = 'M593 P"zvd" F{frequency} S{damping}';
