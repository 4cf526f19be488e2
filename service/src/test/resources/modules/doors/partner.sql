select :partner as partner, :client as client
