update booking set note = :note, version = version + 1 where id = :id
