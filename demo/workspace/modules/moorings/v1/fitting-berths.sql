select b.id, n.name as basin, b.berth_no, b.length_m, b.width_m, b.has_power, b.nightly_rate
from berth b
join basin n on n.id = b.basin_id
where b.length_m >= :length
  and n.name in (:basins)    -- when :basins
  and b.width_m >= :beam     -- when :beam
  and b.has_power = :power   -- when :power
