-- What belongs to this computer alone: it is neither exported nor taken in with somebody else's data.
create table own (
  name text primary key,
  value text not null
) strict;

-- A phone or another device that was let in. Its cookie is not kept, only a hash of it.
create table device (
  id integer primary key,
  name text not null,
  reader text not null,
  token_hash text not null unique,
  rights text not null default '[]',
  let_in_at text not null,
  used_at text not null,
  put_out_at text
) strict;

-- A picture that somebody took of a print; its own name keeps it once however often it is sent.
create table photo (
  id integer primary key,
  print_id integer not null references print (id),
  uid text not null unique,
  jpeg blob not null,
  preview blob not null,
  width integer not null check (width > 0),
  height integer not null check (height > 0),
  reader text not null,
  taken_at text not null,
  deleted_at text
) strict;
create index photo_of_print on photo (print_id, id);

-- Counts changes of a print's pictures, so that a page can tell whether it shows the newest.
alter table print add column revision integer not null default 0;
create trigger photo_added after insert on photo begin
  update print set revision = revision + 1 where id = new.print_id;
end;
create trigger photo_moved after update of deleted_at on photo begin
  update print set revision = revision + 1 where id = new.print_id;
end;
