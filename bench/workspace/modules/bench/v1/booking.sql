select id, status, note, version from booking where id = :id
