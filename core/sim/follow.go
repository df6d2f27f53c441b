// Package sim integrates over time what does not follow its cause at once.
package sim

import "math"

// Follow is a second-order follow: a mass on a spring and a damper that is pulled after a
// target, x” = w^2 (X - x) - 2 z w x', w = 2 pi Frequency. Times are seconds.
type Follow struct {
	Frequency float64 // of the undamped swing, 1/s
	Damping   float64 // ratio z; below 1 it overshoots by exp(-pi z / sqrt(1 - z^2))
}

// Step holds the solution over a time, for targets that move evenly over it.
type Step struct {
	h, lag         float64
	xx, xv, vx, vv float64
}

// Over returns the step over h seconds. It is exact (the closed solution of the linear equation,
// control-theory textbooks), so that its length does not matter and no step is unstable.
func (f Follow) Over(h float64) Step {
	w, z := 2*math.Pi*f.Frequency, f.Damping
	s := Step{h: h, lag: 2 * z / w}
	e := math.Exp(-z * w * h)
	switch d := 1 - z*z; {
	case d > 1e-9:
		wd := w * math.Sqrt(d)
		sin, cos := math.Sincos(wd * h)
		s.xx, s.xv = e*(cos+z*w/wd*sin), e*sin/wd
		s.vx, s.vv = -e*w*w/wd*sin, e*(cos-z*w/wd*sin)
	case d < -1e-9:
		r := w * math.Sqrt(-d)
		a, b := -z*w+r, -z*w-r
		ea, eb := math.Exp(a*h), math.Exp(b*h)
		s.xx, s.xv = (a*eb-b*ea)/(a-b), (ea-eb)/(a-b)
		s.vx, s.vv = a*b*(eb-ea)/(a-b), (a*ea-b*eb)/(a-b)
	default:
		s.xx, s.xv = e*(1+w*h), e*h
		s.vx, s.vv = -e*w*w*h, e*(1-w*h)
	}
	return s
}

// Next returns place and speed after the step for a target that goes evenly from one place to
// another.
func (s *Step) Next(x, v, from, to float64) (nextX, nextV float64) {
	speed := 0.0
	if s.h > 0 {
		speed = (to - from) / s.h
	}
	// Beside the place that it would keep behind an even target the motion is free.
	y, u := x-from+s.lag*speed, v-speed
	return s.xx*y + s.xv*u + to - s.lag*speed, s.vx*y + s.vv*u + speed
}
