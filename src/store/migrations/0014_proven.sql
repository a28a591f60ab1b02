-- When a value was printed beside the one before it, and looked better to those who did not know which was which.
alter table ledger add column proven_at text;
alter table ledger add column proven_by integer references ladder (id);
