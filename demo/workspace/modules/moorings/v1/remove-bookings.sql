delete from booking
where status = :status
  and departs < :before   -- when :before
