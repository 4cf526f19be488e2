select content, media_type, file_name from paper where id = :id
