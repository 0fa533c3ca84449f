-- the calendar of the company; null on books that were begun before it could be set: the machine's
alter table company add column time_zone varchar(60);

-- a day is done when its work is; one that was begun and never ended is begun again
alter table daily_recheck add column finished_at timestamp with time zone;
update daily_recheck set finished_at = started_at;

-- the day on which something was written, in the company's calendar, beside the day that it is dated
alter table journal_entry add column written_on date;
update journal_entry set written_on = cast(posted_at as date);
alter table journal_entry alter column written_on set not null;
alter table history add column written_on date;
update history set written_on = cast(at as date);
alter table history alter column written_on set not null;

-- what was open on a past day: settled since then
create index allocation_on on allocation (allocated_on, invoice_id);
create index deposit_use_on on deposit_use (used_on, invoice_id);

-- what a credit takes back of goods that were billed and had not left
alter table credit_note_line add column ahead decimal(19, 3) default 0 not null;
alter table credit_note_line add column deferred decimal(19, 4) default 0 not null;
