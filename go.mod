module bead

go 1.26.8

require gonum.org/v1/gonum v0.17.0
