insert into log_line (word) values ('later')
