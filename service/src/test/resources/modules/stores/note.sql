insert into crate_move (from_id, to_id, kilos, was) values (:from, :to, :kilos, :source.kilos)
