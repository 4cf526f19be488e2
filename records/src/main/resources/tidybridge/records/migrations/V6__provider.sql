alter table person add column provider varchar(255) null;
alter table person add column subject varchar(255) null;
