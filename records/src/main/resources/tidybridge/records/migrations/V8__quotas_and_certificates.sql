alter table client_application add column quota_calls      bigint null;
alter table client_application add column quota_seconds    int    null;
alter table client_application add column quota_concurrent int    null;
alter table client_application add column subjects         text   null;

create table quota_use (
  id       varchar(255) character set utf8mb4 collate utf8mb4_bin not null,
  begun_at datetime(3)  not null,
  ends_at  datetime(3)  not null,
  used     bigint       not null,
  primary key (id, begun_at)
);

create index quota_use_by_end on quota_use (ends_at);
