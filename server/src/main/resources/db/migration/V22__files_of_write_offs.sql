-- files kept with a write-off, which stands among the payments
alter table attachment add column payment_id bigint;

create index attachment_payment on attachment (payment_id, id);

alter table attachment add constraint attachment_payment_fk foreign key (payment_id) references payment (id);
