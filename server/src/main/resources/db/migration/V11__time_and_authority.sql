-- the calendar of the company; null on books that were begun before it could be set: the machine's
alter table company add column time_zone varchar(60);

-- a day is done when its work is; one that was begun and never ended is begun again
alter table daily_recheck add column finished_at timestamp with time zone;
update daily_recheck set finished_at = started_at;
