insert into crate (label, kilos, shed_id) values (:label, :kilos, :shed)
