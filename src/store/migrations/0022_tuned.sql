-- What is tuned of a filament is asked for by the filament.
create index bench_of_filament on bench (filament_id);
-- From here on a ladder that nobody changed was only looked at, and is on no list: those of before stay on theirs.
update ladder set revision = 1 where revision = 0 and current_file_id is null;
