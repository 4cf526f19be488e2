create table access_number (
  id     int    not null primary key,
  number bigint not null
);

create table access_role (
  name       varchar(63)   not null primary key,
  about      varchar(500)  null,
  workspace  varchar(255)  null,
  holds      text          not null,
  changed_at datetime(3)   not null
);

create table person (
  name          varchar(63)  not null primary key,
  full_name     varchar(120) not null,
  password_hash varchar(255) null,
  factor_secret varchar(64)  null,
  factor_step   bigint       not null,
  disabled      boolean      not null,
  created_at    datetime(3)  not null
);

create table person_role (
  person varchar(63) not null,
  role   varchar(63) not null,
  primary key (person, role),
  constraint held_by_person foreign key (person) references person (name) on delete cascade
);

create table client_application (
  name       varchar(63)  not null primary key,
  about      varchar(500) null,
  owner      varchar(120) not null,
  contact    varchar(255) not null,
  disabled   boolean      not null,
  created_at datetime(3)  not null
);

create table client_role (
  client varchar(63) not null,
  role   varchar(63) not null,
  primary key (client, role),
  constraint held_by_client foreign key (client) references client_application (name) on delete cascade
);

create table client_credential (
  id            char(16)    not null primary key,
  client        varchar(63) not null,
  name          varchar(63) not null,
  secret_sha256 char(64)    not null,
  created_at    datetime(3) not null,
  ends_at       datetime(3) null,
  used_at       datetime(3) null,
  constraint one_credential_a_name unique (client, name),
  constraint shown_by_client foreign key (client) references client_application (name) on delete cascade
);

create table session (
  id            char(16)     not null primary key,
  person        varchar(63)  null,
  kind          varchar(20)  not null,
  secret_sha256 char(64)     not null,
  opened_at     datetime(3)  not null,
  ends_at       datetime(3)  not null,
  used_at       datetime(3)  not null,
  address       varchar(45)  not null,
  constraint opened_by_person foreign key (person) references person (name) on delete cascade
);

create index session_by_end on session (ends_at);

create table sign_in_code (
  sha256  char(64)    not null primary key,
  person  varchar(63) null,
  ends_at datetime(3) not null,
  constraint code_of_person foreign key (person) references person (name) on delete cascade
);
-- [jooq ignore start]
insert into access_number (id, number) values (1, 1);
-- [jooq ignore stop]
