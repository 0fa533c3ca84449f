-- registers of goods: what left and what came back, line by line, each on its own day and on the day it was undone
create view dispatch_register as
select l.id as id, d.id as dispatch_id, d.number as number, o.customer_id as customer_id, d.departed_on as entered_on,
    cast('ISSUED' as varchar(8)) as side, o.id as order_id, l.item_id as item_id, d.site_id as site_id,
    l.quantity as quantity, l.cost as cost
from dispatch_line l
join dispatch d on d.id = l.dispatch_id
join sales_order o on o.id = d.order_id
where d.departed_on is not null
union all
select -l.id, d.id, d.number, o.customer_id, d.reversed_on, cast('REVERSED' as varchar(8)), o.id, l.item_id, d.site_id,
    -l.quantity, -l.cost
from dispatch_line l
join dispatch d on d.id = l.dispatch_id
join sales_order o on o.id = d.order_id
where d.reversed_on is not null;

create view returns_register as
select p.id as id, g.number as number, g.customer_id as customer_id, p.received_on as entered_on,
    cast(case when p.quantity < 0 then 'REVERSED' else 'ISSUED' end as varchar(8)) as side,
    cast('RECEIVED' as varchar(20)) as event, g.reason_code as reason, l.item_id as item_id, p.quantity as quantity,
    p.cost as cost
from return_part p
join return_line l on l.id = p.return_line_id
join goods_return g on g.id = l.return_id
union all
select -k.id, g.number, g.customer_id, k.decided_on,
    cast(case when k.quantity < 0 then 'REVERSED' else 'ISSUED' end as varchar(8)), k.kind, g.reason_code, l.item_id,
    -k.quantity, -k.cost
from return_outcome k
join return_part p on p.id = k.part_id
join return_line l on l.id = p.return_line_id
join goods_return g on g.id = l.return_id;

create index dispatch_staged on dispatch (staged_on, id);
create index invoice_due_on on invoice (due_on, id);
create index dispatch_reversed on dispatch (reversed_on, id);
create index return_outcome_decided on return_outcome (decided_on, id);
create index return_line_dispatch on return_line (dispatch_id, dispatch_line_no);

-- what stood at the end of a day is found among what is open now and what has changed since
create index invoice_line_deferred on invoice_line (deferred, invoice_id);
create index payment_unused on payment (left_amount, id);
create index deposit_unused on deposit (left_amount, id);
drop index allocation_on;
create index allocation_on on allocation (allocated_on, invoice_id, payment_id);
drop index deposit_use_on;
create index deposit_use_on on deposit_use (used_on, invoice_id, deposit_id);

-- the sequences in which orders are looked over, and those of a state newest first
create index sales_order_ordered on sales_order (ordered_on, id);
create index sales_order_requested on sales_order (requested_on, id);
create index sales_order_gross on sales_order (gross, id);
create index sales_order_newest on sales_order (state, id);
