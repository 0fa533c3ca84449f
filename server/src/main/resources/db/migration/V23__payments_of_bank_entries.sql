-- an entry of several customers becomes a payment of each
create table bank_entry_payment (
    entry_id   bigint not null,
    payment_id bigint not null,
    primary key (entry_id, payment_id)
);

insert into bank_entry_payment (entry_id, payment_id)
select e.id, e.payment_id
from bank_entry e
where e.payment_id is not null;

create index bank_entry_payment_payment on bank_entry_payment (payment_id);

alter table bank_entry_payment add constraint bank_entry_payment_entry_fk foreign key (entry_id) references bank_entry (id);

alter table bank_entry_payment add constraint bank_entry_payment_payment_fk foreign key (payment_id) references payment (id);

alter table bank_entry drop constraint bank_entry_payment_id_fk;

alter table bank_entry drop column payment_id;
