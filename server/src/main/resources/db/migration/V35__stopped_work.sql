-- work that is done many times over can be stopped, and goes on when it is told to
alter table batch add column stopped_at timestamp with time zone;
alter table batch add column stopped_by varchar(60);
