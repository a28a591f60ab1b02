-- Pictures and files stand beside the database, by their hash: rows hold what is listed, and nothing else. `keep_bytes`
-- writes and syncs, and gives the hash.
create table bytes (
  sha text primary key,
  size integer not null
) strict, without rowid;

create temp table moved as
  select id, keep_bytes(jpeg) as sha, length(jpeg) as size, keep_bytes(preview) as sha2, length(preview) as size2 from photo;
insert into bytes select sha, size from moved where true on conflict do nothing;
insert into bytes select sha2, size2 from moved where true on conflict do nothing;
alter table photo add column jpeg_sha text references bytes (sha);
alter table photo add column preview_sha text references bytes (sha);
create unique index temp.moved_id on moved (id);
update photo set jpeg = x'', preview = x'',
  jpeg_sha = (select sha from moved where moved.id = photo.id),
  preview_sha = (select sha2 from moved where moved.id = photo.id);
alter table photo drop column jpeg;
alter table photo drop column preview;
drop table temp.moved;

create temp table moved as select print_id as id, keep_bytes(png) as sha, length(png) as size from print_picture;
insert into bytes select sha, size from moved where true on conflict do nothing;
create unique index temp.moved_id on moved (id);
alter table print_picture add column png_sha text references bytes (sha);
update print_picture set png = x'', png_sha = (select sha from moved where id = print_id);
alter table print_picture drop column png;
drop table temp.moved;

create temp table moved as
  select id, keep_bytes(strip) as sha, length(strip) as size from look where strip is not null;
insert into bytes select sha, size from moved where true on conflict do nothing;
create unique index temp.moved_id on moved (id);
alter table look add column strip_sha text references bytes (sha);
update look set strip = null, strip_sha = (select sha from moved where moved.id = look.id);
alter table look drop column strip;
drop table temp.moved;

create temp table moved as select id, keep_bytes(gcode) as sha, length(gcode) as size from kept;
insert into bytes select sha, size from moved where true on conflict do nothing;
create unique index temp.moved_id on moved (id);
alter table kept add column gcode_sha text references bytes (sha);
update kept set gcode = x'', gcode_sha = (select sha from moved where moved.id = kept.id);
alter table kept drop column gcode;
drop table temp.moved;

-- What is planned in a file, and what its check said, are long, and asked for one file at a time.
create table file_text (
  file_id integer primary key references file (id),
  plan text not null,
  checked text
) strict;
insert into file_text select id, plan, checked from file;
create temp table moved as select id, keep_bytes(gcode) as sha, length(gcode) as size from file;
insert into bytes select sha, size from moved where true on conflict do nothing;
create unique index temp.moved_id on moved (id);
alter table file add column rungs integer not null default 0;
alter table file add column gcode_sha text references bytes (sha);
update file set rungs = coalesce(json_array_length(plan, '$.rungs'), 0), gcode = x'', plan = '', checked = null,
  gcode_sha = (select sha from moved where moved.id = file.id);
alter table file drop column gcode;
alter table file drop column plan;
alter table file drop column checked;
drop table temp.moved;

-- Temperatures of a job are added as they come: pieces of JSON, each rows of seconds, nozzle, its target, bed, its target.
create table heat (
  id integer primary key,
  job_id integer not null references job (id),
  rows text not null
) strict;
create index heat_of_job on heat (job_id, id);
insert into heat (job_id, rows) select id, heat from job where heat <> '[]';
alter table job drop column heat;

create index look_of_photo on look (photo_id) where photo_id is not null;
create index file_of_sha on file (sha256);
