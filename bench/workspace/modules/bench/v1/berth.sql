select b.id, n.name as basin, b.berth_no, b.length_m, b.width_m, b.has_power, b.has_water, b.nightly_rate, b.equipment
from berth b
join basin n on n.id = b.basin_id
where b.id = :id
