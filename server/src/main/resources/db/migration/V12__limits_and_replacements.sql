-- what a replacement stands for, so that no goods are replaced twice
create table replacement (
    order_id        bigint      not null primary key,
    document_kind   varchar(20) not null,
    document_number varchar(40) not null
);
create index replacement_document on replacement (document_number, order_id);
alter table replacement add constraint replacement_order_fk foreign key (order_id) references sales_order (id);

-- the lists say that a margin is too low, not how low
update finding set brief = 'margin too low' where check_code = 'margin';

-- the log of users, newest first
create index sign_in_at on sign_in (at);
create index user_change_at on user_change (at);
