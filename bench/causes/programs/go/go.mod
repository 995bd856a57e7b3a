module skerrow.example/booking

go 1.19
