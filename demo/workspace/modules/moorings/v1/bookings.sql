-- Every booking; dotted names become nested objects.
select k.id, k.status, k.arrives, k.departs, k.booked_at, k.note,
  b.id as `berth.id`, b.berth_no as `berth.berth_no`, n.name as `berth.basin`,
  v.registration as `vessel.registration`, v.name as `vessel.name`,
  s.name as `skipper.name`, s.email as `skipper.email`
from booking k
join berth b on b.id = k.berth_id
join basin n on n.id = b.basin_id
join vessel v on v.id = k.vessel_id
join skipper s on s.id = v.skipper_id
