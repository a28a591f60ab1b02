-- Machines that are warm, written down before they are, and those that may be hot after something ended (`why`). It
-- belongs to this computer, not to what is exported: the name is kept as it was, whatever an import makes of the id.
create table owed (
  -- Whatever it is called and under whatever id: at one address there is one machine.
  address text primary key,
  machine_id integer not null,
  name text not null,
  tools integer not null default 1,
  why text,
  state text not null check (state in ('unheard', 'told', 'stuck')),
  since text not null
) strict, without rowid;

-- Looked for whenever something on a machine is another: what has ended and is not kept as a print yet, and how a copy
-- was printed.
create index job_of_print on job (print_id) where print_id is not null;
create index job_unkept on job (id) where state = 'finished' and print_id is null;

-- The file that a ladder stands for now: the same inputs give the same bytes, which are kept once, so the newest row
-- need not be it.
alter table ladder add column current_file_id integer references file (id);
update ladder set current_file_id = (select max(id) from file where ladder_id = ladder.id);
