-- What is in the archive is found without looking at all that is not.
create index machine_away on machine (deleted_at) where deleted_at is not null;
create index filament_away on filament (deleted_at) where deleted_at is not null;
create index bench_away on bench (deleted_at) where deleted_at is not null;
create index ladder_away on ladder (deleted_at) where deleted_at is not null;
create index print_away on print (deleted_at) where deleted_at is not null;
create index reading_away on reading (deleted_at) where deleted_at is not null;
create index kept_away on kept (deleted_at) where deleted_at is not null;
create index photo_away on photo (deleted_at) where deleted_at is not null;
create index shake_away on shake (deleted_at) where deleted_at is not null;

-- Asked for by what they belong to.
create index job_of_file on job (file_id) where file_id is not null;
create index job_of_kept on job (kept_id) where kept_id is not null;
create index job_under_way on job (state) where ended_at is null;
create index ledger_of_ladder on ledger (ladder_id) where ladder_id is not null;
create index ladder_by_file on ladder (current_file_id) where current_file_id is not null;
create index print_by_time on print (printed_at);

-- At which revision of its reading a tap came, or was taken back: a page is answered with what it does not have.
alter table score_act add column revision integer not null default 0;
create index act_by_revision on score_act (reading_id, revision);
