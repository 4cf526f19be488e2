select id, file_name from paper where sheets >= :least
and owner_email in (:owners) -- when :owners
