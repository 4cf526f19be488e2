create table refused_call (
  id         bigint        not null auto_increment primary key,
  at         datetime(3)   not null,
  request_id varchar(64)   not null,
  module     varchar(80)   null,
  operation  varchar(255)  null,
  who        varchar(120)  null,
  address    varchar(45)   not null,
  status     int           not null,
  code       varchar(63)   not null,
  reason     varchar(1000) not null
);

create index refused_by_request on refused_call (request_id);
