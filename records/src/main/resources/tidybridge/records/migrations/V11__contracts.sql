-- what a release promises, and what was known when it was published: written once, like the release itself
create table release_contract (
  release_id      bigint        not null primary key,
  contract        mediumtext    not null,
  contract_sha256 char(64)      not null,
  catalog         mediumtext    not null,
  catalog_sha256  char(64)      not null,
  findings        mediumtext    not null,
  compared_with   bigint        null,
  differences     mediumtext    null,
  note            varchar(1000) null,
  breaks_because  varchar(1000) null,
  came_from       varchar(255)  null,
  made_at         datetime(3)   not null,
  constraint contract_of_release foreign key (release_id) references module_release (id)
);

-- what was live under each major version, one row for each time that changed; release_id is null where nothing was live any more
create table live_change (
  id          bigint        not null auto_increment primary key,
  module      varchar(63)   not null,
  major       int           not null,
  release_id  bigint        null,
  replaced_id bigint        null,
  kind        varchar(20)   not null,
  differences mediumtext    null,
  reason      varchar(1000) null,
  changed_by  varchar(120)  not null,
  changed_at  datetime(3)   not null,
  constraint change_of_release foreign key (release_id) references module_release (id),
  constraint change_in_place_of foreign key (replaced_id) references module_release (id)
);

create index live_change_of_module on live_change (module, major, id);

-- [jooq ignore start]
create trigger contract_never_changes before update on release_contract
for each row signal sqlstate '45000' set message_text = 'A contract never changes';

create trigger contract_never_goes before delete on release_contract
for each row signal sqlstate '45000' set message_text = 'A contract is never deleted';

insert into live_change (module, major, release_id, kind, changed_by, changed_at)
select live_release.module, live_release.major, module_release.id, 'publish', module_release.published_by, module_release.published_at
  from live_release
  join module_release on module_release.id = live_release.release_id;
-- [jooq ignore stop]
