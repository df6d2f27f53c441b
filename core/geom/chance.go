package geom

// Chance is the SplitMix64 generator (Steele, Lea, Flood, "Fast splittable pseudorandom
// number generators", OOPSLA 2014), begun by its seed; core has no chance without one.
type Chance uint64

// Next returns a number from 0 up to 1.
func (c *Chance) Next() float64 {
	*c += 0x9E3779B97F4A7C15
	z := uint64(*c)
	z = (z ^ z>>30) * 0xBF58476D1CE4E5B9
	z = (z ^ z>>27) * 0x94D049BB133111EB
	return float64((z^z>>31)>>11) / (1 << 53)
}
