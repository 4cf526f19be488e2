select id, label, kilos, version, changed_at from crate where id = :id
