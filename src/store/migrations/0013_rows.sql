-- A table that goes with a value, as JSON: a map of pressure advance beside the one value that does least harm.
alter table ledger add column rows text;
