call opens()
