-- Marrowby Waterways, an invented canal authority. Statements end with a line that holds only "//".

create table basin (
  id        int unsigned not null primary key,
  name      varchar(60)  not null unique,
  town      varchar(60)  not null,
  depth_m   decimal(4,2) not null,
  opened_on date         not null
)
//
create table berth (
  id           int unsigned not null auto_increment primary key,
  basin_id     int unsigned not null,
  berth_no     varchar(8)   not null,
  length_m     decimal(5,2) not null,
  width_m      decimal(4,2) not null,
  has_power    boolean      not null,
  has_water    boolean      not null,
  nightly_rate decimal(7,2) not null,
  equipment    json         null,
  unique key berth_in_basin (basin_id, berth_no),
  key berth_by_length (length_m),
  foreign key (basin_id) references basin (id)
)
//
create table skipper (
  id        int unsigned not null auto_increment primary key,
  name      varchar(80)  not null,
  email     varchar(120) not null unique
)
//
create table vessel (
  id            int unsigned not null auto_increment primary key,
  name          varchar(60)  not null,
  registration  char(8)      not null unique,
  length_m      decimal(5,2) not null,
  beam_m        decimal(4,2) not null,
  draught_m     decimal(3,2) not null,
  built         year         null,
  skipper_id    int unsigned not null,
  foreign key (skipper_id) references skipper (id)
)
//
create table booking (
  id         int unsigned not null auto_increment primary key,
  berth_id   int unsigned not null,
  vessel_id  int unsigned not null,
  arrives    date         not null,
  departs    date         not null comment 'the morning the berth is free again',
  status     enum('requested', 'confirmed', 'cancelled', 'expired') not null,
  booked_at  timestamp    not null default current_timestamp,
  note       varchar(400) null,
  version    int unsigned not null default 1 comment 'counts the changes, so that nobody overwrites what they have not seen',
  changed_at timestamp    not null default current_timestamp on update current_timestamp,
  key booking_by_status (status, departs),
  key booking_by_berth (berth_id, arrives, departs),
  key booking_by_vessel (vessel_id, arrives),
  foreign key (berth_id) references berth (id),
  foreign key (vessel_id) references vessel (id),
  constraint booking_lasts check (departs > arrives)
)
//
create table canal_lock (
  id      int unsigned not null primary key,
  name    varchar(60)  not null unique,
  canal   varchar(60)  not null,
  rise_m  decimal(4,2) not null
)
//
create table lock_passage (
  id           int unsigned not null auto_increment primary key,
  lock_id      int unsigned not null,
  vessel_id    int unsigned not null,
  passed_at    datetime     not null,
  direction    enum('up', 'down') not null,
  wait_minutes smallint unsigned not null,
  level_m      decimal(4,2) null comment 'upper level when the gate opened; null when the gauge was out',
  key passage_by_time (passed_at, id),
  key passage_by_lock (lock_id, passed_at, id),
  key passage_by_vessel (vessel_id, passed_at, id),
  foreign key (lock_id) references canal_lock (id),
  foreign key (vessel_id) references vessel (id)
)
//
create table toll_charge (
  id         int unsigned not null auto_increment primary key,
  passage_id int unsigned not null unique,
  vessel_id  int unsigned not null,
  amount     decimal(8,2) not null,
  charged_at timestamp    not null default current_timestamp,
  constraint charge_of_passage foreign key (passage_id) references lock_passage (id),
  constraint charge_of_vessel foreign key (vessel_id) references vessel (id)
)
//
create table gauge_reading (
  lock_id int unsigned not null,
  read_at datetime     not null,
  level_m decimal(4,2) not null,
  primary key (lock_id, read_at),
  constraint reading_of_lock foreign key (lock_id) references canal_lock (id),
  constraint reading_is_water check (level_m between 0 and 9.99)
)
//
create table closure (
  id          int unsigned not null auto_increment primary key,
  lock_id     int unsigned not null,
  closed_from date         not null,
  closed_to   date         not null,
  reason      varchar(120) not null,
  foreign key (lock_id) references canal_lock (id)
)
//
create view basin_overview as
select b.id, b.name, b.town, b.depth_m, b.opened_on, count(*) as berths, max(r.length_m) as longest_m
from basin b
join berth r on r.basin_id = b.id
group by b.id, b.name, b.town, b.depth_m, b.opened_on
//
create view passage_log as
select p.id, p.passed_at, l.name as lock_name, v.name as vessel, v.registration, p.direction, p.wait_minutes, p.level_m,
       p.lock_id, p.vessel_id
from lock_passage p
straight_join canal_lock l on l.id = p.lock_id
straight_join vessel v on v.id = p.vessel_id
//
create function toll_due(the_vessel int unsigned, the_lock int unsigned) returns decimal(8,2)
reads sql data
begin
  declare due decimal(8,2);
  select round(4.20 + v.length_m * 0.35 + l.rise_m * 0.80, 2) into due
  from vessel v join canal_lock l on l.id = the_lock
  where v.id = the_vessel;
  return due;
end
//
create procedure book_berth(
  in the_berth int unsigned, in the_vessel int unsigned, in the_arrival date, in the_departure date, out the_booking int unsigned)
modifies sql data
begin
  declare locked int unsigned;
  declare taken varchar(90);
  declare refusal varchar(128);
  if the_departure <= the_arrival then
    signal sqlstate '45000' set message_text = 'The stay must end after it begins.';
  end if;
  -- whoever books a berth waits here for those who are booking it already
  select id into locked from berth where id = the_berth for update;
  select group_concat(concat(arrives, ' to ', departs) order by arrives separator ', ') into taken
  from booking
  where berth_id = the_berth and status in ('requested', 'confirmed') and arrives < the_departure and departs > the_arrival;
  if taken is not null then
    set refusal = concat('The berth is taken from ', taken, '.');
    signal sqlstate '45001' set message_text = refusal;
  end if;
  insert into booking (berth_id, vessel_id, arrives, departs, status)
  values (the_berth, the_vessel, the_arrival, the_departure, 'requested');
  set the_booking = last_insert_id();
end
//
