update crate
set label = :label -- when :label
 , kilos = :kilos -- when :kilos
 , version = version + 1 -- when :kilos
where id = :id
