-- What was measured on a picture of a print: on a photo, or on the picture of a simulated print (no photo).
create table look (
  id integer primary key,
  print_id integer not null references print (id),
  photo_id integer references photo (id),
  found text not null,
  -- The straightened picture, JPEG.
  strip blob,
  taken_at text not null
) strict;
create unique index look_of on look (print_id, coalesce(photo_id, 0));
