-- When somebody said that a value is in the machine itself now.
alter table ledger add column carried_at text;
