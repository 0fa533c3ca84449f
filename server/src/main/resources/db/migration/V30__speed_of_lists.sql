-- decisions are few among all that happened: they are found by a day of their own
alter table history add column decided_on date;
update history set decided_on = happened_on
where event in ('waived', 'approved', 'sent-back', 'recalled', 'cancelled') or state_to = 'DECLINED';
create index history_decided on history (decided_on, moment);
drop index history_day;

-- lists are read in the sequence of what they can be sorted by
create index customer_name on customer (name, id);
create index item_name on item (name, id);
create index payment_received on payment (received_on, id);
create index invoice_open_amount on invoice (open_amount, id);
create index sales_order_line_requested on sales_order_line (requested_on, id);
create index stock_movement_day on stock_movement (moved_on, id);

-- of an item what waits, among all that ever waited
create index stock_claim_waiting on stock_claim (waits, item_id, waiting);
