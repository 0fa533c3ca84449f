-- credit notes, deposits and receipts of returns that were taken back stay on record
alter table credit_note add column reversed_on date;

alter table credit_note add column reversed_moment bigint;

alter table deposit add column reversed_on date;

alter table deposit add column reversed_moment bigint;

-- of a receipt that was taken back: the row itself, and the one beside it with its signs turned
alter table return_part add column reversed boolean default false not null;
