call changes_schema()
