package path

// DrawnTurn is the greatest turn in radians from chord to chord of a drawn path.
const DrawnTurn = 0.2

// Polyline returns a path's points for drawing, x, y, z each, within chordError metres, and their distances.
func (c *Curve) Polyline(chordError float64) (points, distances []float32) {
	stations := c.Stations(nil, chordError, DrawnTurn)
	points = make([]float32, 0, 3*len(stations))
	distances = make([]float32, len(stations))
	for i, s := range stations {
		if i == len(stations)-1 && c.Closed() {
			s = 0 // the end is the start, to the bit
		}
		p, _ := c.At(s)
		points = append(points, float32(p.X), float32(p.Y), float32(p.Z))
		distances[i] = float32(stations[i])
	}
	return points, distances
}
