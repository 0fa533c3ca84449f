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
