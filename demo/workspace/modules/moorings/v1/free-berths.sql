-- Berths that no booking touches between the first night and the morning of leaving.
select b.id, n.name as basin, b.berth_no, b.length_m, b.width_m, b.has_power, b.has_water, b.nightly_rate
from berth b
join basin n on n.id = b.basin_id
where not exists (
    select 1
    from booking k
    where k.berth_id = b.id
      and k.status in ('requested', 'confirmed')
      and k.arrives < :until
      and k.departs > :from)
  and n.name = :basin            -- when :basin
  and b.length_m >= :minLength   -- when :minLength
