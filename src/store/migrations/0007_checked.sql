-- What the check of a file said, kept with it, so that it is read and audited once; null where nobody has asked yet.
alter table file add column checked text;
