select :who as who, :address as address, :request as request, :session as session
