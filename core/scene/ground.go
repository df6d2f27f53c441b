package scene

import (
	"fmt"
	"math"
	"slices"

	"bead/core/geom"
	"bead/core/mech"
)

// Ground is what lies below: a profile of heights along z, the same from side to side.
// Its points, humps and roughness add up; left out it is level at height 0.
type Ground struct {
	Points []GroundPoint `json:"points,omitempty" jsonschema:"description=In rising z; level before the first and behind the last."`
	Smooth bool          `json:"smooth,omitempty" jsonschema:"description=A smooth curve goes through the points."`
	Humps  []Hump        `json:"humps,omitempty"`
	Rough  *Rough        `json:"rough,omitempty"`
	// Material is what it is made of; left out it is drawn as a chart.
	Material string `json:"material,omitempty" jsonschema:"description=Id of the material; left out: it is drawn as a chart." ref:"material"`
}

// GroundPoint is a height at a place along z.
type GroundPoint struct {
	Z      float64 `json:"z" jsonschema:"minimum=-1e6,maximum=1e6,description=Metres along z."`
	Height float64 `json:"height" jsonschema:"minimum=-1e6,maximum=1e6,description=Metres."`
}

// Hump is a rounded rise, half a wave of a cosine each way.
type Hump struct {
	Z      float64 `json:"z" jsonschema:"minimum=-1e6,maximum=1e6,description=Metres along z where its top is."`
	Length float64 `json:"length" jsonschema:"minimum=1e-3,maximum=1e6,description=Metres from end to end."`
	Height float64 `json:"height" jsonschema:"minimum=-1e6,maximum=1e6,description=Metres; below 0: a hollow."`
}

// Rough is a stretch of seeded unevenness.
type Rough struct {
	Seed   int64   `json:"seed"`
	Amount float64 `json:"amount" jsonschema:"minimum=0,maximum=1e6,description=Metres of its greatest height."`
	Grain  float64 `json:"grain" jsonschema:"minimum=1e-3,maximum=1e6,description=Metres; about the length of one bump."`
	From   float64 `json:"from" jsonschema:"minimum=-1e6,maximum=1e6,description=Metres along z where it begins."`
	To     float64 `json:"to" jsonschema:"minimum=-1e6,maximum=1e6,description=Metres along z where it ends."`
}

// MaxGround bounds the points of a compiled profile.
const MaxGround = 20_000

const (
	// groundTol is the greatest distance of the straights from the ground's curve, metres.
	groundTol = 5e-6
	maxParts  = 2048 // of one hump
)

// partsFor is into how many straights a curve with a second derivative up to bend is cut over a
// length, so that a chord strays by no more than groundTol: bend s^2 / 8 for one of length s.
func partsFor(length, bend float64) int {
	return int(min(max(math.Ceil(length*math.Sqrt(math.Abs(bend)/(8*groundTol))), 16), maxParts))
}

// Profile is the ground as straights: points as they are; smooth ones and humps cut finely
// enough to be within 5 µm of the curve (humps of more than 8.5 m within 6e-7 of their height);
// roughness into eight a grain. nil is level.
func (g *Ground) Profile() mech.Ground {
	if g == nil {
		return nil
	}
	var at []float64
	for _, p := range g.Points {
		at = append(at, p.Z)
	}
	slopes := g.slopes()
	for k := 1; k < len(slopes); k++ {
		// The second derivative of a cubic is greatest at one of its ends.
		a, b := g.Points[k-1], g.Points[k]
		h := b.Z - a.Z
		rise := (b.Height - a.Height) / h
		n := partsFor(h, 2*max(math.Abs(3*rise-2*slopes[k-1]-slopes[k]), math.Abs(3*rise-slopes[k-1]-2*slopes[k]))/h)
		for j := 1; j < n; j++ {
			at = append(at, a.Z+h*float64(j)/float64(n))
		}
	}
	for _, h := range g.Humps {
		n := partsFor(h.Length, 2*math.Pi*math.Pi*h.Height/(h.Length*h.Length))
		n += n % 2 // the top is a point of its own
		for j := range n + 1 {
			at = append(at, h.Z+h.Length*(float64(j)/float64(n)-0.5))
		}
	}
	if r := g.Rough; r != nil {
		n := r.parts()
		for j := range n + 1 {
			at = append(at, r.From+(r.To-r.From)*float64(j)/float64(n))
		}
	}
	slices.Sort(at)
	var out mech.Ground
	for _, z := range at {
		if n := len(out); n > 0 && z-out[n-1].X < 1e-9 {
			continue
		}
		y := g.base(z, slopes)
		for _, h := range g.Humps {
			if u := (z - h.Z) / h.Length; math.Abs(u) < 0.5 {
				y += h.Height * (1 + math.Cos(2*math.Pi*u)) / 2
			}
		}
		if g.Rough != nil {
			y += g.Rough.at(z)
		}
		out = append(out, mech.Point{X: z, Y: y})
	}
	return out
}

// base is the height of the points at z: straight, or a cubic through them whose slope
// at each is that of its neighbours (Catmull and Rom, 1974), level at the ends.
func (g *Ground) base(z float64, slopes []float64) float64 {
	p := g.Points
	n := len(p)
	k, _ := slices.BinarySearchFunc(p, z, func(p GroundPoint, z float64) int {
		if p.Z <= z {
			return -1
		}
		return 1
	})
	switch {
	case n == 0:
		return 0
	case k == 0:
		return p[0].Height
	case k == n:
		return p[n-1].Height
	}
	a, b := p[k-1], p[k]
	h := b.Z - a.Z
	u := (z - a.Z) / h
	if slopes == nil {
		return a.Height + u*(b.Height-a.Height)
	}
	y, _ := geom.Hermite(a.Height, b.Height, slopes[k-1], slopes[k], h, u)
	return y
}

func (g *Ground) slopes() []float64 {
	if !g.Smooth {
		return nil
	}
	out := make([]float64, len(g.Points))
	for k := 1; k+1 < len(out); k++ {
		a, b := g.Points[k-1], g.Points[k+1]
		out[k] = (b.Height - a.Height) / (b.Z - a.Z)
	}
	return out
}

func (r *Rough) parts() int { return max(int(8*(r.To-r.From)/r.Grain), 1) }

// at is the roughness at z: random heights a grain apart with a smooth curve between
// (value noise), fading in over a grain at either end.
func (r *Rough) at(z float64) float64 {
	if z <= r.From || z >= r.To {
		return 0
	}
	x := (z - r.From) / r.Grain
	k := math.Floor(x)
	u := x - k
	u *= u * (3 - 2*u)
	value := func(k float64) float64 {
		c := geom.Chance(r.Seed*0x9E3779B9 + int64(k)*0x85EBCA6B)
		return c.Next()
	}
	fade := min((z-r.From)/r.Grain, (r.To-z)/r.Grain, 1)
	return r.Amount * fade * fade * (3 - 2*fade) * (value(k)*(1-u) + value(k+1)*u)
}

func (c *checker) ground(g *Ground) {
	if g == nil {
		return
	}
	if n := len(g.Points); n > MaxGround/32 {
		c.say("ground.points", "%d points are not accepted: up to %d are", n, MaxGround/32)
		return
	}
	for i, p := range g.Points {
		at := fmt.Sprintf("ground.points[%d]", i)
		if i > 0 && !(p.Z-g.Points[i-1].Z >= 1e-6) {
			c.say(at+".z", "%g is not beyond the point before, at %g: rising places are accepted", p.Z, g.Points[i-1].Z)
		}
	}
	if n := len(g.Humps); n > 100 {
		c.say("ground.humps", "%d humps are not accepted: up to 100 are", n)
		return
	}
	if r := g.Rough; r != nil {
		if n := 8 * (r.To - r.From) / r.Grain; !(r.To > r.From) || n > MaxGround/2 {
			c.say("ground.rough", "from %g to %g with a grain of %g is not accepted: a stretch of up to %d grains is", r.From, r.To, r.Grain, MaxGround/16)
		}
	}
}
