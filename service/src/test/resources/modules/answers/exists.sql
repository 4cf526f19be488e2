select id from paper where id = :id
