delete from crate

delete from crate_move

insert into crate (id, label, kilos) values (1, 'one', 10), (2, 'two', 20), (3, 'three', 30), (4, 'four', 40)
