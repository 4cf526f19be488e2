delete from crate where id = :id
