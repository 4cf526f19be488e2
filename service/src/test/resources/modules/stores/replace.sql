insert into crate (id, label, kilos) values (:id, :label, :kilos) on duplicate key update label = value(label), kilos = value(kilos), version = version + 1
