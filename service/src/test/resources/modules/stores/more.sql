update crate set kilos = kilos + :kilos where id = :to
