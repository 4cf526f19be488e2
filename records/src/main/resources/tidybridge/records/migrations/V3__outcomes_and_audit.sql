create table call_outcome (
  key_sha256  char(64)    not null primary key,
  fingerprint char(64)    not null,
  claim       char(36)    not null,
  together    boolean     not null,
  lease_until datetime(3) not null,
  expires_at  datetime(3) not null,
  status      int         null,
  headers     text        null,
  body        mediumblob  null
);

create index outcome_by_expiry on call_outcome (expires_at);

create table audit_entry (
  id      bigint       not null auto_increment primary key,
  at      datetime(3)  not null,
  who     varchar(120) not null,
  action  varchar(63)  not null,
  subject varchar(255) not null,
  detail  varchar(1000) not null
);

create index audit_by_time on audit_entry (at);
