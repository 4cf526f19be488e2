select count(*) as n from paper where id in (:ids)
