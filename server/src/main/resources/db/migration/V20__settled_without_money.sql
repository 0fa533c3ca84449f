-- what of an invoice is settled without money: written off, or taken as a discount for paying early
alter table customer add column early_percent decimal(5, 2);

alter table customer add column early_days integer;

alter table invoice add column early_percent decimal(5, 2);

alter table invoice add column early_until date;

-- once anything was settled without money: of all others nothing is asked
alter table invoice add column reduced boolean default false not null;

-- a discount stands beside the money that it was taken with, and is none of it
alter table allocation add column discount boolean default false not null;

-- the share of a discount that a credit note need not give back
alter table credit_note_vat add column discount_net decimal(19, 4) default 0 not null;

alter table credit_note_vat add column discount_tax decimal(19, 4) default 0 not null;

create sequence write_off_number start with 1001;

create table reduction (
    id              bigint         not null primary key,
    kind            varchar(20)    not null,
    payment_id      bigint         not null,
    invoice_id      bigint         not null,
    customer_id     bigint         not null,
    reduced_on      date           not null,
    amount          decimal(19, 4) not null,
    reason          varchar(2000)  not null,
    moment          bigint         not null,
    reversed_on     date,
    reversed_moment bigint
);

create index reduction_invoice on reduction (invoice_id);

create index reduction_payment on reduction (payment_id);

create index reduction_kind on reduction (kind, id);

create table reduction_vat (
    reduction_id bigint         not null,
    vat_category varchar(2)     not null,
    vat_rate     decimal(5, 2)  not null,
    base         decimal(19, 4) not null,
    net          decimal(19, 4) not null,
    tax          decimal(19, 4) not null,
    primary key (reduction_id, vat_category, vat_rate)
);

-- where it posts, unless the company has accounts by these numbers, or has said so itself
insert into account (code, name)
select v.code, v.name
from (
    select '5400' as code, 'Payment differences' as name
    union all
    select '5500', 'Bad debt'
    union all
    select '4800', 'Sales discounts'
) v
where not exists (select 1 from account a where a.code = v.code);

insert into posting_rule (id, role, customer_class, item_class, site, vat, account)
select nextval('row_id'), v.role, '', '', '', '', v.account
from (
    select 'payment_differences' as role, '5400' as account
    union all
    select 'bad_debt', '5500'
    union all
    select 'sales_discounts', '4800'
) v
where not exists (select 1 from posting_rule p where p.role = v.role);

alter table reduction add constraint reduction_payment_fk foreign key (payment_id) references payment (id);

alter table reduction add constraint reduction_invoice_fk foreign key (invoice_id) references invoice (id);

alter table reduction add constraint reduction_customer_fk foreign key (customer_id) references customer (id);

alter table reduction_vat add constraint reduction_vat_fk foreign key (reduction_id) references reduction (id);
