create or replace table shed (id int primary key)

insert into shed values (1)

create or replace table crate (
  id int not null auto_increment primary key, label varchar(10) null, kilos decimal(6,2) null,
  shed_id int null, sealed boolean not null default false, version int not null default 1,
  changed_at timestamp not null default current_timestamp on update current_timestamp,
  unique key crate_label (label), constraint crate_in_shed foreign key (shed_id) references shed (id),
  constraint crate_weight check (kilos >= 0))

create or replace table crate_move (
  id int not null auto_increment primary key, from_id int not null, to_id int not null,
  kilos decimal(6,2) not null, was decimal(6,2) null)

create or replace trigger crate_rule before insert on crate for each row
if new.label = 'gold' then signal sqlstate '45009' set message_text = 'Gold goes to the office.';
elseif new.label = 'odd' then signal sqlstate '45000' set message_text = 'An odd crate.'; end if

create or replace procedure tally(in least decimal(6,2), inout running int, out counted int, out the_status int, out the_words varchar(60))
begin
  select count(*) into counted from crate where kilos >= least;
  set running = running + counted;
  insert into crate_move (from_id, to_id, kilos) values (0, 0, 0);
  select label, kilos from crate where kilos >= least order by kilos;
  select label from crate where kilos >= least order by kilos desc limit 1;
  if least > 100 then
    set the_status = 409, the_words = 'Nothing weighs that much.';
  end if;
end

create or replace procedure hush() update crate set kilos = kilos + 1

grant insert, update, delete on waterways.crate to waterways_service@'127.0.0.1'

grant insert, update, delete on waterways.crate_move to waterways_service@'127.0.0.1'
