select :name as name, :client as client, :address as address, 'partner' in (:roles) as is_partner, 'doors.me' in (:privileges) as holds_me
