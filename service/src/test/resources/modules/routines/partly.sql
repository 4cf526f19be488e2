call partly()
