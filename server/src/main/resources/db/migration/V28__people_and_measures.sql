-- whom to call at a customer
alter table customer add column contact varchar(120) default '' not null;
alter table customer add column phone varchar(60) default '' not null;

-- what a unit of an item measures: kilograms and cubic metres; unknown where nobody has said so
alter table item add column weight decimal(12, 3);
alter table item add column volume decimal(15, 6);

-- the statement of a customer goes through its orders by day
create index sales_order_of_customer on sales_order (customer_id, ordered_on, id);
