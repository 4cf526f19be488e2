-- basin_overview counts the berths of each basin.
select id, name, town, depth_m, opened_on, berths, longest_m
from basin_overview
