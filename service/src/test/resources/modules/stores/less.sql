update crate set kilos = kilos - :kilos where id = :source.id
