call hush()
