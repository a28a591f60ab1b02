-- Which data this is: a name for good, and a part that is another whenever other data takes its place.
insert into own (name, value) values ('store', lower(hex(randomblob(8))) || '-' || lower(hex(randomblob(4))))
  on conflict (name) do nothing;

-- Presses of buttons by their names, so that each is done once, and a page whose answer was lost can ask what became of it.
create table pressed (
  name text primary key,
  state text not null check (state in ('begun', 'done', 'cut', 'barred')),
  at text not null
) strict, without rowid;
create index pressed_at on pressed (at);
