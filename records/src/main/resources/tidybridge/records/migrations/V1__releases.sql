create table module_release (
  id             bigint       not null auto_increment primary key,
  module         varchar(63)  not null,
  major          int          not null,
  version        varchar(20)  not null,
  source         varchar(63)  not null,
  content        mediumtext   not null,
  content_sha256 char(64)     not null,
  published_by   varchar(120) not null,
  published_at   datetime(3)  not null,
  constraint one_release_a_version unique (module, version)
);

create table live_release (
  module     varchar(63) not null,
  major      int         not null,
  release_id bigint      not null,
  primary key (module, major),
  constraint live_is_released foreign key (release_id) references module_release (id)
);

create table service_secret (
  name  varchar(63)  not null primary key,
  value varchar(255) not null
);
