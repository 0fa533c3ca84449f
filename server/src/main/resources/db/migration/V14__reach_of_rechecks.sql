-- Which of a customer's orders are to be looked at again: beside a new order, those that wait, or all that have not left.
alter table recheck_queue rename column occasion to reach;
update recheck_queue set reach = 'ALL' where reach = 'CUSTOMER_CHANGED';
update recheck_queue set reach = 'WAITING' where reach <> 'ALL';
