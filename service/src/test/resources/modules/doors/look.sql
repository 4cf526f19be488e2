select :what as what
