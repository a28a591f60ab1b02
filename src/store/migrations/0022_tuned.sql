-- What is tuned of a filament is asked for by the filament.
create index bench_of_filament on bench (filament_id);
