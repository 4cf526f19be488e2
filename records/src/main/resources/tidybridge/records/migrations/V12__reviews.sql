-- a text that somebody asks a second person to approve, and what came of it
create table review (
  id             bigint        not null auto_increment primary key,
  module         varchar(63)   not null,
  major          int           not null,
  version        varchar(20)   not null,
  content        mediumtext    not null,
  content_sha256 char(64)      not null,
  replaces_id    bigint        null,
  compared_with  bigint        null,
  differences    mediumtext    null,
  findings       mediumtext    not null,
  note           varchar(1000) null,
  breaks_because varchar(1000) null,
  came_from      varchar(255)  null,
  asked_by       varchar(120)  not null,
  asked_at       datetime(3)   not null,
  state          varchar(20)   not null,
  decided_by     varchar(120)  null,
  decided_at     datetime(3)   null,
  words          varchar(1000) null,
  release_id     bigint        null,
  constraint review_in_place_of foreign key (replaces_id) references module_release (id),
  constraint review_compared_with foreign key (compared_with) references module_release (id),
  constraint review_of_release foreign key (release_id) references module_release (id)
);

create index review_of_version on review (module, version, id);
create index review_of_state on review (state, id);

-- whether the text of a release asks for a second person, so that nobody needs to read it to know; nodes from before this leave it out
alter table module_release add column asks_review boolean not null default false;
