-- a fee that is kept back piece by piece comes to the fee of the whole
alter table credit_note_line add column fee_percent decimal(5, 2) default 0 not null;

-- what is to be credited of a return, and what was credited of it before it came: at the invoices' prices, net
alter table goods_return add column credit_due decimal(19, 4) default 0 not null;
alter table goods_return add column credited_ahead decimal(19, 4) default 0 not null;
create index goods_return_credit_due on goods_return (credit_due, received_on, id);
create index goods_return_credited_ahead on goods_return (credited_ahead, authorised_on, id);


-- what is to become of what a credit note leaves: KEEP, REFUND, or nothing as long as nobody said
alter table credit_note add column wish varchar(20) default '' not null;
create index credit_note_wish on credit_note (wish, credited_on, id);
