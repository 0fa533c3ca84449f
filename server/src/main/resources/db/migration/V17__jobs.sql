-- What servers do without being asked, or after their answer: each job is claimed by one of them, and taken up by another
-- where that one is gone. The columns are those that db-scheduler asks for.
create table job (
    task_name            varchar(100)             not null,
    task_instance        varchar(100)             not null,
    task_data            bytea,
    execution_time       timestamp with time zone not null,
    picked               boolean                  not null,
    picked_by            varchar(200),
    last_success         timestamp with time zone,
    last_failure         timestamp with time zone,
    consecutive_failures integer,
    last_heartbeat       timestamp with time zone,
    version              bigint                   not null,
    primary key (task_name, task_instance)
);
create index job_execution_time on job (execution_time);
create index job_last_heartbeat on job (last_heartbeat);

-- what waits is a job from now on
insert into job (task_name, task_instance, execution_time, picked, version)
select distinct 'batch', cast(e.batch_id as varchar(20)), current_timestamp, false, 1
from batch_entry e
where e.state = 'WAITING';

insert into job (task_name, task_instance, execution_time, picked, version)
select 'payout', cast(p.id as varchar(20)) || '.' || cast(p.version as varchar(20)), current_timestamp, false, 1
from payout p
where p.closed = false and p.state in ('WAITING', 'SENDING');
