update crate set kilos = :kilos where id = :id
