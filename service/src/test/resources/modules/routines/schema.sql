create or replace table log_line (id int not null auto_increment primary key, word varchar(20) not null)

create or replace procedure keeps_then_refuses() modifies sql data begin insert into log_line (word) values ('kept'); commit; signal sqlstate '45000' set message_text = 'No.'; end

create or replace procedure keeps() modifies sql data begin insert into log_line (word) values ('kept'); commit; end

create or replace procedure changes_schema() modifies sql data begin insert into log_line (word) values ('kept'); create or replace table log_scrap (id int); end

create or replace procedure opens() modifies sql data begin start transaction; insert into log_line (word) values ('lost'); end

create or replace procedure partly() modifies sql data begin insert into log_line (word) values ('lost'); savepoint mine; insert into log_line (word) values ('less'); rollback to savepoint mine; signal sqlstate '45000' set message_text = 'No.'; end

create or replace procedure shows() reads sql data begin select word from log_line; select count(*) as words from log_line; end

grant insert on waterways.log_line to waterways_service@'127.0.0.1'

grant execute on waterways.* to waterways_service@'127.0.0.1'
