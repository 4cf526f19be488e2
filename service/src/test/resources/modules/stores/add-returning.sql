insert into crate (label, kilos) values (:label, :kilos) returning id, label, kilos
