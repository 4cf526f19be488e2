insert into toll_charge (passage_id, vessel_id, amount)
values (:passed.key, :vessel.id, toll_due(:vessel.id, :lockId))
