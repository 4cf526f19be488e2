select label from crate where id = :source.id and sealed for update
