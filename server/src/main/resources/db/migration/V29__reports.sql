-- from order to cash: of each invoice that stands, the days on which its orders came, its goods left and it was paid
create view order_to_cash as
select i.id as id, i.number as number, i.customer_id as customer_id, i.gross as gross, i.invoiced_on as invoiced_on,
    (select min(o.ordered_on) from invoice_line l join sales_order o on o.id = l.root_order_id
        where l.invoice_id = i.id) as ordered_on,
    (select max(d.departed_on) from invoice_line l join invoice_line_source s on s.invoice_line_id = l.id
        join dispatch d on d.id = s.dispatch_id where l.invoice_id = i.id) as departed_on,
    case when i.open_amount = 0 then greatest(
        coalesce((select max(a.allocated_on) from allocation a where a.invoice_id = i.id), i.invoiced_on),
        coalesce((select max(u.used_on) from deposit_use u where u.invoice_id = i.id), i.invoiced_on)) end as paid_on
from invoice i
where i.reversed_on is null;

-- months that moved what customers owe: what was billed in each, what was owed at its end, how many days it had
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
        select l.entry_date as happened_on, l.amount as moved, 0 as billed
        from journal_line l
        where l.role = 'receivables'
        union all
        select i.invoiced_on, 0, i.gross from invoice i
        union all
        select i.reversed_on, 0, -i.gross from invoice i where i.reversed_on is not null) x
    group by cast(date_trunc('month', x.happened_on) as date)) m;

-- what was done is looked over by day
create index history_day on history (happened_on, moment);
create index unwinding_day on unwinding (undone_on, id);
create index unexpected_goods_day on unexpected_goods (came_on, id);
