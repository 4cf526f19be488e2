call keeps_then_refuses()
