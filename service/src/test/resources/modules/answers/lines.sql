select count(*) as many, sum(line.qty) as pieces, max(line.sku) as last_sku, max(line.note) as note,
  (select max(day.at) from json_table(:days, '$[*]' columns (at datetime path '$')) as day) as last_day
from json_table(:lines, '$[*]' columns (sku varchar(20) path '$.sku', qty decimal(9,2) path '$.qty', note varchar(20) path '$.of.note')) as line
