select id, kilos from crate where id = :id
