-- Which measures of a picture count as a reading of the print, as JSON; null where the picture is only looked at.
alter table look add column counted text;
