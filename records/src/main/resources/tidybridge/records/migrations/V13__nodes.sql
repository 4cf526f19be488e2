-- the services that run over these records, as each tells of itself every few seconds; what ended without saying so is forgotten later
create table node (
  id          char(32)     not null primary key,
  name        varchar(255) not null,
  version     varchar(120) not null,
  started_at  datetime(3)  not null,
  seen_at     datetime(3)  not null,
  live_change bigint       not null,
  leaving     boolean      not null,
  troubles    mediumtext   not null
);

-- what the node that looked last found of a live release that no longer fits its database
create table release_drift (
  release_id bigint      not null primary key,
  looked_at  datetime(3) not null,
  notes      mediumtext  not null,
  constraint drift_of_release foreign key (release_id) references module_release (id)
);
