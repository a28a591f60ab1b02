-- An act carries its own name, so that it is kept once however often it is sent, and an undo says which act it means.
alter table score_act add column uid text;
update score_act set uid = 'act ' || id;
create unique index act_uid on score_act (uid);

-- A value found on a real machine and one from a simulated machine stand side by side; neither retires the other.
drop index ledger_current;
update ledger set replaced_at = null
 where id in (select max(id) from ledger group by bench_id, setting, simulated);
create unique index ledger_current on ledger (bench_id, setting, simulated) where replaced_at is null;

-- Counts changes, so that a page can tell whether it shows the newest.
alter table ladder add column revision integer not null default 0;
alter table reading add column revision integer not null default 0;
alter table machine add column revision integer not null default 0;
alter table filament add column revision integer not null default 0;

create index ladder_of_kind on ladder (bench_id, kind, id);
create index ledger_of_bench on ledger (bench_id, setting, id);
