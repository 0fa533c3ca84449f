-- registers: documents day by day, each on its own day and, the other way round, on the day of its reversal
alter table payment add column reversed_on date;

update payment set reversed_on = (
    select max(e.entry_date) from journal_entry e
    where e.document_number = payment.number and e.document_kind = payment.kind and e.mirrors is not null
        and e.event in ('reversal: payment', 'reversal: credit note', 'reversal: small difference written off',
            'reversal: bad debt written off'))
where reversed = true;

create index invoice_reversed on invoice (reversed_on, id);
create index credit_note_date on credit_note (credited_on, id);
create index credit_note_reversed on credit_note (reversed_on, id);
create index payment_date on payment (kind, received_on, id);
create index payment_reversed on payment (kind, reversed_on, id);
create index deposit_date on deposit (received_on, id);
create index deposit_reversed on deposit (reversed_on, id);
create index refund_date on refund (refunded_on, id);
create index refund_reversed on refund (reversed_on, id);

-- what was moved for a role within days is read from the index alone
drop index journal_line_role;
create index journal_line_role on journal_line (role, entry_date, entry_id, account, amount);

create view sales_register as
select i.id as id, i.id as invoice_id, i.number as number, i.customer_id as customer_id, i.invoiced_on as entered_on,
    cast('ISSUED' as varchar(8)) as side, i.net as net, i.vat as vat, i.gross as gross
from invoice i
union all
select -i.id, i.id, i.number, i.customer_id, i.reversed_on, cast('REVERSED' as varchar(8)), -i.net, -i.vat, -i.gross
from invoice i
where i.reversed_on is not null;

create view credit_note_register as
select c.id as id, c.invoice_id as invoice_id, c.number as number, c.customer_id as customer_id,
    c.credited_on as entered_on, cast('ISSUED' as varchar(8)) as side, c.net as net, c.vat as vat, c.gross as gross,
    c.reason as reason
from credit_note c
union all
select -c.id, c.invoice_id, c.number, c.customer_id, c.reversed_on, cast('REVERSED' as varchar(8)), -c.net, -c.vat,
    -c.gross, c.reason
from credit_note c
where c.reversed_on is not null;

create view receipts_register as
select p.id as id, cast('PAYMENT' as varchar(20)) as kind, p.number as number, p.customer_id as customer_id,
    p.received_on as entered_on, cast('ISSUED' as varchar(8)) as side, p.amount as amount
from payment p
where p.kind = 'PAYMENT'
union all
select -p.id, cast('PAYMENT' as varchar(20)), p.number, p.customer_id, p.reversed_on, cast('REVERSED' as varchar(8)),
    -p.amount
from payment p
where p.kind = 'PAYMENT' and p.reversed_on is not null
union all
select d.id, cast('DEPOSIT' as varchar(20)), d.number, d.customer_id, d.received_on, cast('ISSUED' as varchar(8)),
    d.amount
from deposit d
where d.moved_from is null
union all
select -d.id, cast('DEPOSIT' as varchar(20)), d.number, d.customer_id, d.reversed_on, cast('REVERSED' as varchar(8)),
    -d.amount
from deposit d
where d.moved_from is null and d.reversed_on is not null
union all
select r.id, cast('REFUND' as varchar(20)), r.number, r.customer_id, r.refunded_on, cast('ISSUED' as varchar(8)),
    -r.amount
from refund r
union all
select -r.id, cast('REFUND' as varchar(20)), r.number, r.customer_id, r.reversed_on, cast('REVERSED' as varchar(8)),
    r.amount
from refund r
where r.reversed_on is not null;

create view write_off_register as
select r.id as id, r.kind as kind, p.number as number, r.invoice_id as invoice_id, r.customer_id as customer_id,
    r.reduced_on as entered_on, cast('ISSUED' as varchar(8)) as side, r.amount as amount, r.reason as reason
from reduction r
join payment p on p.id = r.payment_id
where r.kind <> 'DISCOUNT'
union all
select -r.id, r.kind, p.number, r.invoice_id, r.customer_id, r.reversed_on, cast('REVERSED' as varchar(8)), -r.amount,
    r.reason
from reduction r
join payment p on p.id = r.payment_id
where r.kind <> 'DISCOUNT' and r.reversed_on is not null;
