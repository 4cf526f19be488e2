-- texts that are being worked on, with what they were before; the newest revision of each is the draft
create table draft_revision (
  module         varchar(63)  not null,
  major          int          not null,
  revision       int          not null,
  content        mediumtext   not null,
  content_sha256 char(64)     not null,
  restored_from  int          null,
  changed_by     varchar(120) not null,
  changed_at     datetime(3)  not null,
  primary key (module, major, revision)
);
