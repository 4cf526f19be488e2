drop table paper
