select :id as id, 'berth 7' as secret
