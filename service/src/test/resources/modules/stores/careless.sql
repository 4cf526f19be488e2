update crate set kilos = 0 where id > :id
