call shows()
