-- what a customer has open: lists in the sequence of it read it instead of adding up all invoices. A row for who owes
create table customer_open (
    customer_id   bigint         not null primary key,
    invoices      bigint         not null,
    still         decimal(19, 4) not null,
    oldest_due_on date           not null
);
insert into customer_open (customer_id, invoices, still, oldest_due_on)
select i.customer_id, count(*), sum(i.open_amount), min(i.due_on)
from invoice i where i.open_amount > 0 group by i.customer_id;
alter table customer_open add constraint customer_open_customer_fk foreign key (customer_id) references customer (id);
create index customer_open_still on customer_open (still, customer_id);
create index customer_open_oldest on customer_open (oldest_due_on, customer_id);
drop index invoice_open;
create index invoice_open on invoice (customer_id, open_amount, due_on, id);

-- what was billed in a month is what entries of its days moved
drop view receivables_month;
create view receivables_month as
select cast(extract(year from m.month_on) as bigint) * 100 + cast(extract(month from m.month_on) as bigint) as id,
    m.month_on as month_on,
    cast(m.month_on + interval '1' month - interval '1' day as date) as last_on,
    cast(extract(day from (m.month_on + interval '1' month - interval '1' day)) as integer) as days,
    m.billed as billed,
    sum(m.moved) over (order by m.month_on) as owed
from (
    select cast(date_trunc('month', d.entry_date) as date) as month_on, sum(d.debit - d.credit) as moved,
        sum(case when d.document_kind = 'INVOICE'
                and d.event not in ('early-payment discount', 'reversal: early-payment discount')
            then d.debit - d.credit else 0 end) as billed
    from journal_day d
    where d.role = 'receivables'
    group by cast(date_trunc('month', d.entry_date) as date)) m;

-- a register looks for numbers of payments through the kind, too
create index payment_kind_number on payment (kind, number, id);

-- rows that are looked at in the sequence of what is open, or of their day, tell when they are due. What is open at all
-- is found by the day until which it is
drop index invoice_unpaid;
drop index invoice_open_amount;
create index invoice_open_amount on invoice (open_amount, id, due_on);
drop index invoice_date;
create index invoice_date on invoice (invoiced_on, id, number, customer_id, net, vat, gross, due_on);
