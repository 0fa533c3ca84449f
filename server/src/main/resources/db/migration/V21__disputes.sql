-- an invoice, or a part of it, that the customer does not agree with: it is not dunned while it is looked into
alter table invoice add column disputed boolean default false not null;

create table dispute (
    id         bigint        not null primary key,
    invoice_id bigint        not null,
    amount     decimal(19, 4),
    reason     varchar(2000) not null,
    owner      varchar(60)   not null,
    look_on    date          not null,
    opened_on  date          not null,
    opened_by  varchar(60)   not null,
    state      varchar(20)   not null,
    ended_on   date,
    ended_by   varchar(60),
    ended_why  varchar(2000),
    version    bigint        not null
);

create index dispute_invoice on dispute (invoice_id, id);

create index dispute_state on dispute (state, look_on, id);

alter table dispute add constraint dispute_invoice_fk foreign key (invoice_id) references invoice (id);
