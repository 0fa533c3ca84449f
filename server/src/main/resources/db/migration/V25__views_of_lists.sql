-- what was asked of a list, kept under a name
create table list_view (
    id        bigint        primary key,
    list_name varchar(60)   not null,
    name      varchar(80)   not null,
    owner     varchar(60)   not null,
    for_all   boolean       not null,
    filters   varchar(4000) not null,
    sort      varchar(60)   not null,
    columns   varchar(1000) not null,
    chart     varchar(130)  not null,
    version   bigint        not null
);

create index list_view_list on list_view (list_name, name, id);

-- what a user sees first of a list
create table standard_view (
    username  varchar(60) not null,
    list_name varchar(60) not null,
    view_key  varchar(60) not null,
    primary key (username, list_name)
);
