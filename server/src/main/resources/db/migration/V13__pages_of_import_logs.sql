-- what became of a long file, page by page behind the first, which is in the log itself
create table import_page (
    import_id bigint      not null,
    part      varchar(10) not null,
    no        integer     not null,
    content   text        not null,
    primary key (import_id, part, no)
);
alter table import_page add constraint import_page_import_fk foreign key (import_id) references import_log (id);
