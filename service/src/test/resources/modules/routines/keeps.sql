call keeps()
