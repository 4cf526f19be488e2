-- Tables that nobody made for this service: every type of column, every kind of key, names that need quotes.
create table every_type (
  id int primary key auto_increment,
  tiny tinyint not null, flag tinyint(1) not null default 1, small smallint not null, medium mediumint null, big bigint not null,
  big_positive bigint unsigned not null, amount decimal(9,2) not null, exact decimal(20,6) null, positive decimal(5,1) unsigned not null default 2.5,
  single float null, twice double not null, bits bit(5) null, one_bit bit(1) null, year_built year not null,
  letters char(3) not null, words varchar(40) not null comment 'What is said of it: "quoted", with a # sign', long_words text null, huge_words mediumtext null,
  day date not null, clock time not null, clock_fine time(3) null, moment timestamp not null default current_timestamp(), moment_fine timestamp(3) null,
  local datetime not null, local_fine datetime(6) null,
  colour enum('red', 'blue, dark', 'it''s', '') not null, marks set('a', 'b', 'c') null,
  document json null, bytes varbinary(20) null, fixed_bytes binary(4) null, file mediumblob null,
  number uuid null, address inet6 null, address_old inet4 null, spot point null,
  twice_tiny int generated always as (tiny * 2) stored, shout varchar(40) generated always as (upper(words)) virtual,
  index (words), index (day), index (colour), index (amount)
) comment 'One column of each type';
create table composite_key (quay int not null, day date not null, note varchar(20) null, primary key (quay, day));
create table text_keys (name varchar(20) not null, part char(2) not null, size int not null default 3, primary key (name, part));
create table unique_key (code varchar(10) not null unique, label varchar(30) not null);
create table no_key (label varchar(30) not null, size int null);
create table nullable_key (code varchar(10) null unique, label varchar(30) not null);
create table float_key (size float primary key, label varchar(10) null);
create table bytes_key (id binary(8) primary key, label varchar(10) null);
create table number_key (id uuid primary key default uuid(), label varchar(10) null);
create table moment_key (at datetime(6) primary key, label varchar(10) null);
create table flag_key (flag tinyint(1) primary key, label varchar(10) null);
create table only_key (id int primary key);
create table all_optional (id int primary key auto_increment, note varchar(20) null, size int not null default 4);
create table optional_key (id int primary key default 7, note varchar(20) null);
create table needs_a_place (id int primary key auto_increment, spot point not null);
create table checked (id int primary key auto_increment, level decimal(3,2) not null, age int not null, first_day date null, last_day date null,
  constraint level_is_water check (level between 0 and 9.5), constraint age_fits check (age >= 3 and age < 90), constraint days_in_order check (first_day <= last_day));
create table parent (id int primary key auto_increment, name varchar(20) not null unique);
create table child (id int primary key auto_increment, parent_id int not null, other_parent int null, label varchar(10) null,
  constraint child_parent foreign key (parent_id) references parent (id), constraint child_other foreign key (other_parent) references parent (id));
create table tree (id int primary key auto_increment, above int null, label varchar(10) null, constraint tree_above foreign key (above) references tree (id));
create table composite_child (id int primary key auto_increment, quay int not null, day date not null,
  constraint child_of_two foreign key (quay, day) references composite_key (quay, day));
create table kept (id int primary key auto_increment, label varchar(10) null) with system versioning;
create table old_engine (id int primary key auto_increment, label varchar(10) null) engine = myisam;
create table `Order Details` (`Order No` int not null, `1st` varchar(10) not null, `größe in m` decimal(5,2) null, `a.b` int null, `a_b` int null, `group` int null,
  primary key (`Order No`, `1st`));
create table `dots.and-dashes` (`select` int primary key auto_increment, `from` varchar(10) null, `UPPER` int null);
create table UPPER_CASE (ID int primary key auto_increment, LABEL varchar(10) null);
create table `select` (`key` int primary key auto_increment, `order` varchar(10) null, `limit` int null, `after` int null);
create table `Ж` (id int primary key auto_increment, `имя` varchar(10) null, `年` int null);
create view overview as select c.id, c.label, p.name from child c join parent p on p.id = c.parent_id;
create view counted as select parent_id, count(*) as children from child group by parent_id;
create procedure `swap it`(inout `first one` int, out `select` varchar(20)) no sql begin set `select` = concat('was ', `first one`); set `first one` = `first one` + 1; end;
create procedure shows_two(how_many int) modifies sql data begin insert into parent (name) values (concat('made ', how_many)); select id, name from parent order by id limit 2; select how_many as number, null as nothing; end;
create procedure refuses_unless_seven(number int) contains sql begin if number <> 7 then signal sqlstate '45000' set message_text = 'Only seven.'; end if; select number as seven; end;
create procedure commits_itself() modifies sql data begin insert into parent (name) values ('kept for good'); commit; select 1 as one; end;
create function now_is() returns varchar(5) no sql return 'now';
create function place_of(spot point) returns double no sql return st_x(spot);
insert into parent (id, name) values (1, 'First'), (2, 'Second');
insert into composite_key values (1, '2031-05-01', 'kept');
insert into child (id, parent_id, label) values (100, 1, 'one');
