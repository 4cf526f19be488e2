-- client teams that help themselves: their people, their applications, and what they ask for
create table team (
  name        varchar(63)   not null primary key,
  title       varchar(120)  not null,
  contact     varchar(255)  not null,
  webhook     varchar(1000) null,
  webhook_key varchar(100)  null,
  created_at  datetime(3)   not null
);

alter table person add column team varchar(63) null;
alter table person add constraint works_in_team foreign key (team) references team (name) on delete cascade;

alter table client_application add column team varchar(63) null;
alter table client_application add constraint made_by_team foreign key (team) references team (name) on delete cascade;

-- not among the codes that sign in: a node from before this would take one without a person for the administrator's
create table team_invitation (
  sha256  char(64)    not null primary key,
  team    varchar(63) not null,
  ends_at datetime(3) not null,
  constraint invites_into_team foreign key (team) references team (name) on delete cascade
);

-- what an application may beside what its roles hold; nodes from before this leave it out
create table client_privilege (
  client     varchar(63)  not null,
  privilege  varchar(100) not null,
  given_by   varchar(120) not null,
  given_at   datetime(3)  not null,
  ends_at    datetime(3)  null,
  request_id bigint       null,
  primary key (client, privilege),
  constraint may_of_client foreign key (client) references client_application (name) on delete cascade
);

-- who wants to become a team, and which privileges teams want; without keys to others, as it is kept longer than they are
create table access_request (
  id         bigint        not null auto_increment primary key,
  kind       varchar(20)   not null,
  team       varchar(63)   null,
  title      varchar(120)  not null,
  client     varchar(63)   null,
  module     varchar(80)   null,
  privileges text          not null,
  reason     varchar(1000) not null,
  asked_by   varchar(120)  not null,
  contact    varchar(255)  not null,
  address    varchar(45)   not null,
  asked_at   datetime(3)   not null,
  state      varchar(20)   not null,
  decided_by varchar(120)  null,
  decided_at datetime(3)   null,
  words      varchar(1000) null,
  ends_at    datetime(3)   null
);

create index request_of_state on access_request (state, id);
create index request_of_team on access_request (team, id);

create index refused_of_caller on refused_call (who, id);

-- what is to be told to somebody by mail or by a call of theirs, until it was told
create table notice (
  id        bigint        not null auto_increment primary key,
  way       varchar(20)   not null,
  recipient varchar(1000) not null,
  team      varchar(63)   null,
  kind      varchar(63)   not null,
  subject   varchar(255)  not null,
  content   mediumtext    not null,
  made_at   datetime(3)   not null,
  state     varchar(20)   not null,
  tries     int           not null,
  next_at   datetime(3)   not null,
  trouble   varchar(500)  null
);

create index notice_of_state on notice (state, next_at);

-- what owners tell those who call a module; together with what went live it is the module's news
create table announcement (
  id     bigint        not null auto_increment primary key,
  module varchar(63)   not null,
  title  varchar(200)  not null,
  words  varchar(4000) not null,
  said_by varchar(120) not null,
  said_at datetime(3)  not null
);

create index announcement_of_module on announcement (module, id);
