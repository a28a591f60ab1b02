-- Which measures of a picture count as a reading of the print, as JSON; null where the picture is only looked at.
alter table look add column counted text;
-- Rung that a picture shows alone, from the bottom; null where it shows the print.
alter table photo add column rung integer;
