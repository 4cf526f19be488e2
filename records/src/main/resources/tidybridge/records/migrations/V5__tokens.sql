create table signing_key (
  id      varchar(64) not null primary key,
  jwk     text        not null,
  made_at datetime(3) not null
);

create table revoked_token (
  id      varchar(64) not null primary key,
  client  varchar(63) not null,
  ends_at datetime(3) not null
);

create index revoked_by_client on revoked_token (client);
