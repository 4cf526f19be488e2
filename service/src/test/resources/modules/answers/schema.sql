create or replace table paper (id int primary key, content mediumblob null, media_type varchar(80) null, file_name varchar(200) null, owner_email varchar(80) not null, sheets bigint not null)

insert into paper values (1, 'hello', 'text/plain', 'Käse "1".txt', 'mara@marrowby.example', 9007199254740993), (2, '<script>', 'text/html', '../../x.html', 'odo@marrowby.example', 2), (3, x'00FF', 'not a\r\ntype', null, 'odo@marrowby.example', 3), (4, null, null, null, 'a@b.example', 0)
