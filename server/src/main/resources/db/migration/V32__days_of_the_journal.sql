-- what entries moved in a day: balances and registers are told without reading every line
create table journal_day (
    role          varchar(40)    not null,
    entry_date    date           not null,
    document_kind varchar(20)    not null,
    event         varchar(80)    not null,
    account       varchar(20)    not null,
    debit         decimal(19, 4) not null,
    credit        decimal(19, 4) not null,
    primary key (role, entry_date, document_kind, event, account)
);
insert into journal_day (role, entry_date, document_kind, event, account, debit, credit)
select l.role, l.entry_date, e.document_kind, e.event, l.account,
    sum(case when l.amount > 0 then l.amount else 0 end), sum(case when l.amount < 0 then -l.amount else 0 end)
from journal_line l
join journal_entry e on e.id = l.entry_id
group by l.role, l.entry_date, e.document_kind, e.event, l.account;
alter table journal_day add constraint journal_day_account_fk foreign key (account) references account (code);

drop view receivables_month;
create view receivables_month as
select cast(extract(year from m.month_on) as bigint) * 100 + cast(extract(month from m.month_on) as bigint) as id,
    m.month_on as month_on,
    cast(m.month_on + interval '1' month - interval '1' day as date) as last_on,
    cast(extract(day from (m.month_on + interval '1' month - interval '1' day)) as integer) as days,
    m.billed as billed,
    sum(m.moved) over (order by m.month_on) as owed
from (
    select cast(date_trunc('month', x.happened_on) as date) as month_on, sum(x.moved) as moved, sum(x.billed) as billed
    from (
        select d.entry_date as happened_on, sum(d.debit - d.credit) as moved, 0 as billed
        from journal_day d
        where d.role = 'receivables'
        group by d.entry_date
        union all
        select i.invoiced_on, 0, sum(i.gross) from invoice i group by i.invoiced_on
        union all
        select i.reversed_on, 0, -sum(i.gross) from invoice i where i.reversed_on is not null group by i.reversed_on) x
    group by cast(date_trunc('month', x.happened_on) as date)) m;

-- a line of a dispatch knows on which day it left, and was taken back
alter table dispatch_line add column departed_on date;
alter table dispatch_line add column reversed_on date;
update dispatch_line set departed_on = (select d.departed_on from dispatch d where d.id = dispatch_line.dispatch_id),
    reversed_on = (select d.reversed_on from dispatch d where d.id = dispatch_line.dispatch_id);
drop view dispatch_register;
create view dispatch_register as
select l.id as id, l.dispatch_id as dispatch_id, l.departed_on as entered_on, cast('ISSUED' as varchar(8)) as side,
    l.root_order_id as order_id, l.item_id as item_id, l.quantity as quantity, l.cost as cost
from dispatch_line l
where l.departed_on is not null
union all
select -l.id, l.dispatch_id, l.reversed_on, cast('REVERSED' as varchar(8)), l.root_order_id, l.item_id, -l.quantity,
    -l.cost
from dispatch_line l
where l.reversed_on is not null;

-- what registers add up of a day is read from an index alone
create index dispatch_line_departed on dispatch_line (departed_on, id, dispatch_id, root_order_id, item_id, quantity, cost);
create index dispatch_line_reversed on dispatch_line (reversed_on, id);
drop index invoice_date;
create index invoice_date on invoice (invoiced_on, id, number, customer_id, net, vat, gross);
drop index payment_date;
create index payment_date on payment (kind, received_on, id, number, customer_id, amount);
