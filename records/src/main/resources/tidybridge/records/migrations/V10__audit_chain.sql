alter table audit_entry add column address         varchar(45) null;
alter table audit_entry add column state_before    mediumtext  null;
alter table audit_entry add column state_after     mediumtext  null;
alter table audit_entry add column previous_sha256 char(64)    null;
alter table audit_entry add column sha256          char(64)    null;

create index audit_by_subject on audit_entry (action, subject);

create table audit_head (
  id     int      not null primary key,
  entry  bigint   not null,
  sha256 char(64) not null
);

-- [jooq ignore start]
insert into audit_head (id, entry, sha256) values (1, 0, repeat('0', 64));

create trigger audit_never_changes before update on audit_entry
for each row signal sqlstate '45000' set message_text = 'An audit entry never changes';

create trigger audit_never_goes before delete on audit_entry
for each row signal sqlstate '45000' set message_text = 'An audit entry is never deleted';
-- [jooq ignore stop]
