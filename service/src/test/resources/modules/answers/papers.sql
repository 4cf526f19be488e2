select id, owner_email, sheets, content from paper
