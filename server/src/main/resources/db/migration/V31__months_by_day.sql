-- the same months, added up by day first: a day is found in an index, a month is worked out for each row
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
        select l.entry_date as happened_on, sum(l.amount) as moved, 0 as billed
        from journal_line l
        where l.role = 'receivables'
        group by l.role, l.entry_date
        union all
        select i.invoiced_on, 0, sum(i.gross) from invoice i group by i.invoiced_on
        union all
        select i.reversed_on, 0, -sum(i.gross) from invoice i where i.reversed_on is not null group by i.reversed_on) x
    group by cast(date_trunc('month', x.happened_on) as date)) m;
