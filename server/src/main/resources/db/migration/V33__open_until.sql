-- a line of a dispatch carries what of it is unbilled now, and between which days something was; written in one go:
-- each pass over them would write all of their indexes anew
alter table dispatch_line add column unbilled decimal(19, 3) default 0 not null;
alter table dispatch_line add column unbilled_cost decimal(19, 4) default 0 not null;
alter table dispatch_line add column unbilled_until date;
alter table dispatch_line add column taken_on date;

create table day_of_line (
    line_id bigint not null, happened_on date not null, takes boolean not null,
    quantity decimal(19, 3) not null, cost decimal(19, 4) not null
);
insert into day_of_line (line_id, happened_on, takes, quantity, cost)
select l.id, i.invoiced_on, true, case when i.reversed_on is null then s.quantity else 0 end,
    case when i.reversed_on is null then s.cost else 0 end
from dispatch_line l
join invoice_line_source s on s.dispatch_id = l.dispatch_id and s.dispatch_line_no = l.line_no
join invoice_line b on b.id = s.invoice_line_id
join invoice i on i.id = b.invoice_id
union all
select l.id, i.reversed_on, false, 0, 0
from dispatch_line l
join invoice_line_source s on s.dispatch_id = l.dispatch_id and s.dispatch_line_no = l.line_no
join invoice_line b on b.id = s.invoice_line_id
join invoice i on i.id = b.invoice_id
where i.reversed_on is not null
union all
select l.id, p.received_on, true, case when p.standing <> 'BILLED' then p.quantity else 0 end,
    case when p.standing <> 'BILLED' then p.cost else 0 end
from dispatch_line l
join return_line r on r.dispatch_id = l.dispatch_id and r.dispatch_line_no = l.line_no
join return_part p on p.return_line_id = r.id
union all
select l.id, o.decided_on, false, case when p.standing <> 'BILLED' and o.kind = 'SEND_BACK' then -o.quantity else 0 end,
    case when p.standing <> 'BILLED' and o.kind = 'SEND_BACK' then -o.cost else 0 end
from dispatch_line l
join return_line r on r.dispatch_id = l.dispatch_id and r.dispatch_line_no = l.line_no
join return_part p on p.return_line_id = r.id
join return_outcome o on o.part_id = p.id
union all
select l.id, l.reversed_on, false, 0, 0 from dispatch_line l where l.reversed_on is not null
union all
select l.id, l.departed_on, false, 0, 0 from dispatch_line l where l.departed_on is not null;

create table taken_of_line (
    line_id bigint not null primary key, taken_on date, done_on date not null,
    quantity decimal(19, 3) not null, cost decimal(19, 4) not null
);
insert into taken_of_line (line_id, taken_on, done_on, quantity, cost)
select d.line_id, min(case when d.takes then d.happened_on end), max(d.happened_on), sum(d.quantity), sum(d.cost)
from day_of_line d group by d.line_id;
drop table day_of_line;
-- what is given away is never billed
delete from taken_of_line
where exists (select 1 from dispatch_line l
    join sales_order o on o.id = l.root_order_id
    join sales_order_line x on x.order_id = o.id and x.line_no = l.order_line_no
    where l.id = taken_of_line.line_id
    and o.kind in ('SAMPLE', 'REPLACEMENT') and (x.unit_price = 0 or x.discount_percent = 100));

update dispatch_line set (unbilled, unbilled_cost, unbilled_until, taken_on) = (
    select case when dispatch_line.reversed_on is null then dispatch_line.quantity - t.quantity else 0 end,
        case when dispatch_line.reversed_on is null then dispatch_line.cost - t.cost else 0 end,
        case when dispatch_line.reversed_on is null and dispatch_line.quantity <> t.quantity
            then date '9999-12-31' else t.done_on end,
        t.taken_on
    from taken_of_line t where t.line_id = dispatch_line.id)
where exists (select 1 from taken_of_line t where t.line_id = dispatch_line.id);
drop table taken_of_line;
create index dispatch_line_unbilled on dispatch_line (unbilled_until, departed_on, id);

-- an invoice carries between which days something of it was open
alter table invoice add column open_until date;
alter table invoice add column touched_on date;
create table day_of_invoice (invoice_id bigint not null, happened_on date not null);
insert into day_of_invoice (invoice_id, happened_on)
select a.invoice_id, a.allocated_on from allocation a
union all
select u.invoice_id, u.used_on from deposit_use u where u.invoice_id is not null
union all
select i.id, i.reversed_on from invoice i where i.reversed_on is not null;
create index day_of_invoice_invoice on day_of_invoice (invoice_id, happened_on);
update invoice set
    touched_on = (select min(d.happened_on) from day_of_invoice d where d.invoice_id = invoice.id),
    open_until = case when open_amount <> 0 then date '9999-12-31'
        else (select max(d.happened_on) from day_of_invoice d where d.invoice_id = invoice.id) end;
drop table day_of_invoice;
create index invoice_open_until on invoice (open_until, due_on, id);
create index invoice_open_span on invoice
    (open_until, invoiced_on, id, customer_id, due_on, gross, open_amount, touched_on, disputed, reversed_on);
