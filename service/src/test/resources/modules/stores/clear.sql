delete from crate where kilos > :above
 and shed_id = :shed -- when :shed
