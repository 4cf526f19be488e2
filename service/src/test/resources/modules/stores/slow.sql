update crate set kilos = kilos + sleep(3) where id = :id
