package rig

import (
	"context"
	"crypto/sha256"
	"encoding/binary"
	"encoding/json"
	"fmt"
	"math"
	"slices"
	"strings"
	"sync"
	"sync/atomic"

	"bead/core/geom"
	"bead/core/scene"
	"bead/core/sim"
	"bead/core/surface"
)

// What a cloth may be at most.
const (
	maxClothPoints  = 40_000
	maxClothSamples = 24_000_000 // points in all frames that are kept
	maxClothSteps   = 4e9        // points times steps that are worked out

	ownStretch      = 0.004 // share by which small steps may add to what its weight stretches it
	leastSteps      = 8
	mostSteps       = 400
	touchShare      = 0.75 // of the spacing, at which points of one cloth touch
	gustHarmonics   = 5
	clothVersion    = "cloth 1 " // of the method: frames of another are not taken from where they are kept
	gustLength      = 1.5        // metres that a gust is long, of its first harmonic
	lookAroundEvery = 4          // times a frame
)

// densities are those of what is about a cloth, kg/m^3 (from memory: air at 20 degrees, the sea).
var densities = map[string]float64{scene.MediumAir: 1.204, scene.MediumWater: 1025}

// clothRun is the simulation of a drape: its frames are worked out one after another, and kept.
type clothRun struct {
	count    int // frames of the range, and the one after it
	key      string
	kept     Kept // may be nil
	substeps int
	perPiece int // points of a copy

	mu       sync.Mutex
	t        *drape
	cloth    *sim.Cloth
	rest     []geom.Vec // of the points, for what lies beside what
	of       []int32    // of each vertex of a copy, its point
	triangle [][3]int32 // of a copy's vertices
	pins     []clothPin
	pinOf    []int32 // of each point, its number among the pins; -1
	around   sim.Surroundings
	now      float64     // frame, for what acts
	at       float64     // the frame that has been reached
	settle   int         // frames still to settle
	round    int         // rounds still to go before those that are kept
	tail     [][]float32 // the end of the round before, where it is eased into the first
	frames   [][]float32
	known    atomic.Int64 // frames of the range
	worked   atomic.Int64 // frames gone through, those before the range too
	work     int          // of how many
	moment   moment
	solids   []clothSolid
}

// clothPin is a point that is held: its copy, and where it is on the flat cloth.
type clothPin struct {
	point   int32
	piece   int
	x, y, z float64
}

// clothSolid is a fixture that cloth cannot go through.
type clothSolid struct {
	fixture int
	mesh    *surface.Mesh
	box     geom.Box
	pose    geom.Rigid
	back    geom.Rigid
}

// cloth makes the simulation of a drape, or takes that of the compile before where nothing that it
// depends on has changed.
func (c *compiler) cloth(t *drape) (run *clothRun, field string, err error) {
	key := c.clothKey(t)
	if run = c.memo.cloths[key]; run == nil {
		if run, field, err = newClothRun(c, t); err != nil {
			return nil, field, err
		}
		run.key, run.kept = clothVersion+key, c.kept
		run.recall()
	}
	c.memo.drapes[key] = run
	return run, "", nil
}

// clothKey tells simulations apart by all of the document that they could depend on.
func (c *compiler) clothKey(t *drape) string {
	d := *c.Doc
	d.Name, d.Units, d.Plays = "", "", ""
	own := *t.rig
	own.Name, own.InStep = "", ""
	rest, _ := json.Marshal([]any{d.Paths, d.Carriers, d.Tugs})
	if !strings.Contains(string(rest), `"rig":`) && !strings.Contains(string(rest), "rigs/") && own.Traits().Lead == nil && !strings.Contains(string(rest), `"with":`) {
		d.Rigs = nil // nothing that holds it up goes by another rig
	}
	text, _ := json.Marshal([]any{d, own})
	sum := sha256.Sum256(text)
	return fmt.Sprintf("%x %x", sum, c.Parts[t.Part].Hash)
}

func newClothRun(c *compiler, t *drape) (run *clothRun, field string, err error) {
	d := t.drape
	r := &clothRun{t: t, count: t.scene.Doc.Range.Count() + 1}
	mesh, body := c.Parts[t.Part].Mesh, t.Body(0)
	n := body.Vertices()
	flat, normals := make([]float32, 3*n), make([]float32, 3*n)
	body.Rest(flat, normals)
	points := r.weld(flat)
	r.perPiece = len(points)
	total := len(points) * d.Count
	if total > maxClothPoints {
		return nil, "part", fmt.Errorf("a cloth of %d points is not accepted: up to %d in all copies are, so fewer squares or copies", total, maxClothPoints)
	}
	if n := total * r.count; n > maxClothSamples {
		return nil, "part", fmt.Errorf("%d points in %d frames are %d samples: up to %d are accepted, so fewer squares, copies or frames", total, r.count, n, maxClothSamples)
	}
	r.triangles(mesh)
	if len(r.triangle) == 0 {
		return nil, "part", fmt.Errorf("the part has no faces: a sheet, or a mesh with triangles, is accepted")
	}
	var all []geom.Vec
	var faces [][3]int32
	for k := range d.Count {
		base := int32(k * len(points))
		// Copies lie far from one another at rest, so that they are not taken for neighbours.
		for _, p := range points {
			all = append(all, p.Add(geom.V(0, 0, 10*float64(k)*body.Length())))
		}
		for _, f := range r.oneSided() {
			faces = append(faces, [3]int32{base + f[0], base + f[1], base + f[2]})
		}
	}
	f := d.Fabric
	bend := f.Weight * gravity * f.Bending * f.Bending * f.Bending // Peirce's bending length
	r.rest = all
	r.cloth = sim.NewCloth(all, faces, sim.Fabric{Weight: f.Weight, Stretch: f.Stretch, Shear: f.Shear, Bend: bend})
	if field, err = r.hold(points); err != nil {
		return nil, field, err
	}
	r.substeps = r.steps(points)
	settle := int(math.Round(d.Settle * t.scene.Clock.FPS))
	r.work = settle + d.Rounds*(r.count-1) + r.count
	r.worked.Store(1) // how it begins
	r.settle, r.round = settle, d.Rounds
	if d.Ease > 0 && d.Rounds == 0 {
		return nil, "drape.ease", fmt.Errorf("the end is eased into the first frame as it came out of a round before: 1 or more rounds before are accepted")
	}
	if d.Ease >= r.count {
		return nil, "drape.ease", fmt.Errorf("%d frames are not accepted: up to %d, the range's, are", d.Ease, r.count-1)
	}
	if work := float64(total) * float64(r.substeps) * float64(settle+(d.Rounds+1)*r.count); work > maxClothSteps {
		return nil, "drape", fmt.Errorf("%.3g steps of points are not accepted: up to %.3g are, so fewer squares, copies, rounds or steps a frame", work, maxClothSteps)
	}
	for i := range t.scene.Fixtures {
		x := &t.scene.Fixtures[i]
		if c.faultyPart[x.Part] || c.Doc.Fixtures[i].Guide || c.Doc.Parts[x.Part].Guide {
			continue
		}
		solid, err := c.Parts[x.Part].Solid()
		if err != nil {
			continue // it has no inside
		}
		solid.Nearest(geom.Vec{}) // makes it ready for many at once
		r.solids = append(r.solids, clothSolid{fixture: i, mesh: solid, box: c.Parts[x.Part].Bounds})
	}
	r.surround()
	r.frames = make([][]float32, r.count)
	r.tail = make([][]float32, d.Ease+1)
	r.begin()
	return r, "", nil
}

// weld finds the points of a cloth: vertices in one place are one.
func (r *clothRun) weld(flat []float32) []geom.Vec {
	var points []geom.Vec
	at := map[[3]float32]int32{}
	for i := 0; i < len(flat); i += 3 {
		p := [3]float32(flat[i : i+3])
		k, known := at[p]
		if !known {
			k = int32(len(points))
			at[p] = k
			points = append(points, geom.V(float64(p[0]), float64(p[1]), float64(p[2])))
		}
		r.of = append(r.of, k)
	}
	return points
}

func (r *clothRun) triangles(m *geom.Mesh) {
	for i := 0; i+2 < len(m.Indices); i += 3 {
		r.triangle = append(r.triangle, [3]int32{int32(m.Indices[i]), int32(m.Indices[i+1]), int32(m.Indices[i+2])})
	}
}

// oneSided is the triangles of the points, each once: a sheet has two sides in one place.
func (r *clothRun) oneSided() [][3]int32 {
	var out [][3]int32
	seen := map[[3]int32]bool{}
	for _, t := range r.triangle {
		f := [3]int32{r.of[t[0]], r.of[t[1]], r.of[t[2]]}
		key := f
		slices.Sort(key[:])
		if f[0] != f[1] && f[1] != f[2] && f[2] != f[0] && !seen[key] {
			seen[key] = true
			out = append(out, f)
		}
	}
	return out
}

// hold fastens the points by which the cloth hangs.
func (r *clothRun) hold(points []geom.Vec) (field string, err error) {
	d := r.t.drape
	var held []int
	top, size := math.Inf(-1), 0.0
	for _, p := range points {
		top = max(top, p.Y)
	}
	for _, p := range points {
		size = max(size, top-p.Y, math.Abs(p.Z))
	}
	var edge []int // the upper edge, from tail to head
	for i, p := range points {
		if p.Y > top-1e-4*size {
			edge = append(edge, i)
		}
	}
	slices.SortFunc(edge, func(a, b int) int {
		switch {
		case points[a].Z < points[b].Z:
			return -1
		case points[a].Z > points[b].Z:
			return 1
		}
		return a - b
	})
	switch d.Hang {
	case scene.HangCorners:
		held = []int{edge[0], edge[len(edge)-1]}
	case scene.HangEvery:
		for i := 0; i < len(edge); i += d.Every {
			held = append(held, edge[i])
		}
		if (len(edge)-1)%d.Every != 0 {
			held = append(held, edge[len(edge)-1])
		}
	case scene.HangPoints:
		for k, i := range d.Points {
			if i >= len(points) {
				return fmt.Sprintf("drape.points[%d]", k), fmt.Errorf("the cloth has no point %d: 0 to %d are there", i, len(points)-1)
			}
			held = append(held, i)
		}
	default:
		held = edge
	}
	r.pinOf = make([]int32, len(points)*d.Count)
	for i := range r.pinOf {
		r.pinOf[i] = -1
	}
	for k := range d.Count {
		for _, i := range held {
			at := int32(k*len(points) + i)
			if r.pinOf[at] >= 0 {
				continue
			}
			r.pinOf[at] = int32(len(r.pins))
			r.pins = append(r.pins, clothPin{at, k, points[i].X, points[i].Y, points[i].Z})
			r.cloth.Hold(int(at))
		}
	}
	return "", nil
}

// steps is how many steps a frame takes.
func (r *clothRun) steps(points []geom.Vec) int {
	d := r.t.drape
	if d.Substeps > 0 {
		return d.Substeps
	}
	box := geom.EmptyBox()
	for _, p := range points {
		box = box.Extend(p)
	}
	hangs := box.Size().Norm()
	fastest := geom.FromArray(d.Air.Speed).Norm() * (1 + d.Air.Gusts)
	pull := gravity*math.Abs(1-d.Buoyancy) + densities[d.Air.Medium]*fastest*fastest/2/d.Fabric.Weight
	if pull == 0 || hangs == 0 {
		return leastSteps
	}
	// Each spring gives way by its share of the weight below times the step squared over its points'.
	near := r.cloth.Spacing()
	step := math.Sqrt(ownStretch * near * near / (hangs * pull))
	return min(max(int(math.Ceil(1/(step*r.t.scene.Clock.FPS))), leastSteps), mostSteps)
}

// surround makes ready what acts on the cloth.
func (r *clothRun) surround() {
	d := r.t.drape
	r.around = sim.Surroundings{Gravity: geom.V(0, -gravity*(1-d.Buoyancy), 0), Damping: d.Damping, Friction: d.Friction, Pins: r.pin}
	speed := geom.FromArray(d.Air.Speed)
	r.around.Density = densities[d.Air.Medium]
	if r.around.Density > 0 {
		r.around.Flow = func(geom.Vec) geom.Vec { return speed }
		if d.Air.Gusts > 0 && speed != (geom.Vec{}) {
			r.around.Flow = r.gusts(speed)
		}
	}
	r.around.Push = func(at geom.Vec) (float64, geom.Vec) { return pushed(r.t.scene, r.solids, at, d.Thickness) }
}

// gusts swell and fall the flow by the seed, go along with it, and come round with the range.
func (r *clothRun) gusts(speed geom.Vec) func(geom.Vec) geom.Vec {
	d, rg := r.t.drape, r.t.scene.Doc.Range
	chance := geom.Chance(uint64(d.Seed)*2654435761 + 97)
	var size, phase [gustHarmonics]float64
	sum := 0.0
	for k := range size {
		size[k], phase[k] = 1/float64(k+1), 2*math.Pi*chance.Next()
		sum += size[k]
	}
	ahead := speed.Unit()
	// Every other one is the same everywhere; the rest go along: sin(a - x) = sin a cos x - cos a sin x.
	now, all, sines, cosines := math.NaN(), 0.0, 0.0, 0.0
	return func(at geom.Vec) geom.Vec {
		if r.now != now {
			now, all, sines, cosines = r.now, 0, 0, 0
			turn := 2 * math.Pi * (now - float64(rg.First)) / float64(rg.Count())
			for k := range size {
				sin, cos := math.Sincos(float64(k+1)*turn + phase[k])
				if k%2 == 0 {
					all += size[k] * sin
				} else {
					sines, cosines = sines+size[k]*sin, cosines+size[k]*cos
				}
			}
		}
		sin, cos := math.Sincos(2 * math.Pi * at.Dot(ahead) / gustLength)
		return speed.Mul(1 + d.Air.Gusts*(all+sines*cos-cosines*sin)/sum*2)
	}
}

// pushed is how deep a point is in the ground or a fixture, or nearer to it than thick, and the way out.
func pushed(s *Scene, solids []clothSolid, at geom.Vec, thick float64) (depth float64, normal geom.Vec) {
	height, slope := s.ground.Height(at.Z)
	if at.Y-height < thick*(1+math.Abs(slope)) {
		long := math.Hypot(1, slope)
		if deep := (height-at.Y)/long + thick; deep > 0 {
			depth, normal = deep, geom.V(0, 1/long, -slope/long)
		}
	}
	for i := range solids {
		f := &solids[i]
		p := f.back.Apply(at)
		if p.X < f.box.Min.X-thick || p.X > f.box.Max.X+thick || p.Y < f.box.Min.Y-thick || p.Y > f.box.Max.Y+thick || p.Z < f.box.Min.Z-thick || p.Z > f.box.Max.Z+thick {
			continue
		}
		q, n := f.mesh.Nearest(p)
		if deep := thick - p.Sub(q).Dot(n); deep > depth {
			depth, normal = deep, f.pose.Turn(n)
		}
	}
	return depth, normal
}

// placed puts fixtures where they are at a frame.
func placed(s *Scene, solids []clothSolid, frame float64) {
	for i := range solids {
		f := &s.Fixtures[solids[i].fixture]
		solids[i].pose = s.pose(f.carrier, frame).Mul(f.rest)
		solids[i].back = solids[i].pose.Inverse()
	}
}

// pin puts the held points on the path at the present frame.
func (r *clothRun) pin(x []geom.Vec) {
	r.moment = r.t.momentOf(r.now)
	for i := range r.pins {
		x[r.pins[i].point] = r.t.held(&r.moment, &r.pins[i])
	}
}

// momentOf is what is the same for all of the cloth at a frame.
func (t *drape) momentOf(frame float64) moment {
	m := moment{Posed: t.At(frame), frame: frame, pose: t.scene.pathPose(t.Path, frame), speed: t.speed(frame)}
	m.moved, m.base, m.roll = m.pose != geom.Still, t.base(frame), t.Roll(frame)*math.Pi/180
	return m
}

// held is where a held point is.
func (t *drape) held(m *moment, p *clothPin) geom.Vec {
	r := t.reachOf(0, m.base+float64(p.piece)*t.drape.Pitch, m.frame)
	f := t.worldFrame(m, r.Tail+(p.z-t.Body(0).Tail)*r.Stretch)
	return f.P.Mad(f.Side(), p.x).Mad(f.U, p.y)
}

// begin lays the cloth flat along its path in the first frame, in folds where it is wider than its
// run, with the wrinkles asked for.
func (r *clothRun) begin() {
	t, d := r.t, r.t.drape
	first := t.scene.Clock.First
	r.at = first
	r.now = first
	var p Pieces
	p.Distances, p.Transforms = make([]float64, d.Count), make([]float32, d.Count*Stride)
	m := t.momentOf(first)
	t.flat(&p, &m)
	per := len(r.of)
	for k := range d.Count {
		for v, at := range r.of {
			i := 3 * (k*per + v)
			r.cloth.X[k*r.perPiece+int(at)] = geom.V(float64(p.Positions[i]), float64(p.Positions[i+1]), float64(p.Positions[i+2]))
		}
	}
	chance := geom.Chance(uint64(d.Seed) + 1)
	gap := r.gap()
	for i := range r.cloth.X {
		k := i / r.perPiece
		reach := t.reach(k, first)
		z := r.rest[i].Z - 10*float64(k)*t.Body(0).Length() - t.Body(0).Tail
		off := (2*chance.Next() - 1) * d.Wrinkle
		if reach.Stretch < 0.9999 && gap > 0 {
			// A sine of the length that there is too much of, half a wave from held point to held point.
			b := gap * reach.Stretch
			off += 2 * b / math.Pi * math.Sqrt(1/reach.Stretch-1) * math.Sin(math.Pi*z/gap)
		}
		if r.pinOf[i] >= 0 {
			continue
		}
		p := &r.cloth.X[i]
		height, _ := t.scene.ground.Height(p.Z)
		under := max(height+d.Thickness-p.Y, 0) // what would hang below the ground lies on it
		if off != 0 || under > 0 {
			f := t.worldFrame(&m, reach.Tail+z*reach.Stretch)
			*p = p.Mad(f.Side(), off+under).Add(geom.V(0, under, 0))
		}
	}
	r.pin(r.cloth.X)
	clear(r.cloth.V)
	if r.settle == 0 && r.round == 0 {
		r.keep(0)
	}
}

// gap is how far the held points of the edge are apart on the flat cloth, 0 where all are held.
func (r *clothRun) gap() float64 {
	lo, hi, n := math.Inf(1), math.Inf(-1), 0
	for i := range r.pins {
		if r.pins[i].piece == 0 {
			lo, hi, n = min(lo, r.pins[i].z), max(hi, r.pins[i].z), n+1
		}
	}
	if n < 2 || r.t.drape.Hang == scene.HangEdge {
		return 0
	}
	return (hi - lo) / float64(n-1)
}

// advance works out one more frame. Its error is that of ctx.
func (r *clothRun) advance(ctx context.Context) error {
	r.mu.Lock()
	defer r.mu.Unlock()
	if r.whole() {
		return nil
	}
	first, last := r.t.scene.Clock.First, float64(r.t.scene.Doc.Range.Last)
	fps := r.t.scene.Clock.FPS
	dt := 1 / (fps * float64(r.substeps))
	before := slices.Clone(r.cloth.X)
	speed := slices.Clone(r.cloth.V)
	look := max(r.substeps/lookAroundEvery, 1)
	for k := range r.substeps {
		if err := ctx.Err(); err != nil {
			copy(r.cloth.X, before) // it is gone through once more
			copy(r.cloth.V, speed)
			return err
		}
		if r.settle > 0 {
			r.now = first
		} else {
			r.now = r.at + float64(k+1)/float64(r.substeps)
		}
		placed(r.t.scene, r.solids, r.now)
		if !r.t.drape.Through && k%look == 0 {
			r.lookAround(dt * float64(look))
		}
		r.cloth.Step(dt, &r.around)
	}
	r.worked.Add(1)
	switch {
	case r.settle > 0:
		if r.settle--; r.settle == 0 && r.round == 0 {
			r.keep(0)
		}
	case r.round > 0:
		r.at++
		if k := int(r.at-last-1) + r.t.drape.Ease; r.round == 1 && r.t.drape.Ease > 0 && k >= 0 {
			r.tail[k] = r.snapshot()
		}
		if r.at > last {
			r.at = first
			if r.round--; r.round == 0 {
				r.keep(0)
			}
		}
	default:
		r.at++
		r.keep(int(r.at - first))
	}
	if r.whole() && r.kept != nil {
		out := make([]byte, 0, 4*len(r.frames)*len(r.frames[0]))
		for _, f := range r.frames {
			for _, v := range f {
				out = binary.LittleEndian.AppendUint32(out, math.Float32bits(v))
			}
		}
		r.kept.Put(r.key, out)
	}
	return nil
}

// recall takes all frames from where they are kept; what is not whole there is worked out.
func (r *clothRun) recall() {
	if r.kept == nil {
		return
	}
	each := 3 * len(r.cloth.X)
	data, there := r.kept.Get(r.key)
	if !there || len(data) != 4*each*r.count {
		return
	}
	for k := range r.frames {
		r.frames[k] = make([]float32, each)
		for i := range each {
			r.frames[k][i] = math.Float32frombits(binary.LittleEndian.Uint32(data[4*(k*each+i):]))
		}
	}
	r.known.Store(int64(r.count))
	r.worked.Store(int64(r.work))
}

// lookAround finds what of the cloth could touch within some seconds.
func (r *clothRun) lookAround(seconds float64) {
	fastest := 0.0
	for _, v := range r.cloth.V {
		fastest = max(fastest, v.Norm2())
	}
	near := touchShare * r.cloth.Spacing()
	r.cloth.LookAround(near, min(math.Sqrt(fastest)*seconds, 2*near)+0.1*near, r.rest)
}

func (r *clothRun) snapshot() []float32 {
	out := make([]float32, 0, 3*len(r.cloth.X))
	for _, p := range r.cloth.X {
		out = append(out, float32(p.X), float32(p.Y), float32(p.Z))
	}
	return out
}

// keep takes the state as frame k of the range, led over into the end of the round before.
func (r *clothRun) keep(k int) {
	out := r.snapshot()
	if e := r.t.drape.Ease; e > 0 && k >= r.count-1-e {
		at := k - (r.count - 1 - e)
		u := float64(at) / float64(e)
		w := float32(u * u * (3 - 2*u))
		for i, v := range r.tail[at] {
			out[i] += (v - out[i]) * w
		}
	}
	r.frames[k] = out
	r.known.Store(int64(k) + 1)
}

func (r *clothRun) done() int   { return int(r.known.Load()) }
func (r *clothRun) whole() bool { return r.done() == r.count }

// span is the frames between which a frame lies, from 0, and its share of the way.
func (r *clothRun) span(frame float64) (lo, hi int, u float64) {
	at := min(max(frame-r.t.scene.Clock.First, 0), float64(r.count-1))
	lo = int(at)
	u = at - float64(lo)
	if hi = lo; u > 0 {
		hi++
	}
	return lo, hi, u
}

func (r *clothRun) has(frame float64) bool {
	_, hi, _ := r.span(frame)
	return hi < r.done()
}

// fill puts the cloth as it has been worked out into dst; false where it has not been yet. Between
// two frames it goes straight from one to the other; before and after the range it stays. Held
// points are on the path in any case.
func (r *clothRun) fill(dst *Pieces, t *drape, m *moment) bool {
	lo, hi, u := r.span(m.frame)
	if hi >= r.done() {
		return false
	}
	a, b, w := r.frames[lo], r.frames[hi], float32(u)
	per := len(r.of)
	for k := range t.drape.Count {
		for v, at := range r.of {
			i, q := 3*(k*per+v), k*r.perPiece+int(at)
			if p := r.pinOf[q]; p >= 0 {
				h := t.held(m, &r.pins[p])
				dst.Positions[i], dst.Positions[i+1], dst.Positions[i+2] = float32(h.X), float32(h.Y), float32(h.Z)
				continue
			}
			for x := range 3 {
				dst.Positions[i+x] = a[3*q+x] + (b[3*q+x]-a[3*q+x])*w
			}
		}
	}
	clear(dst.Normals)
	for k := range t.drape.Count {
		r.shade(dst.Positions[3*k*per:3*(k+1)*per], dst.Normals[3*k*per:3*(k+1)*per])
	}
	return true
}

// shade finds the normals of a copy's vertices: those of the faces about them, by their size.
func (r *clothRun) shade(at, normals []float32) {
	for _, t := range r.triangle {
		a, b, c := 3*t[0], 3*t[1], 3*t[2]
		ux, uy, uz := at[b]-at[a], at[b+1]-at[a+1], at[b+2]-at[a+2]
		vx, vy, vz := at[c]-at[a], at[c+1]-at[a+1], at[c+2]-at[a+2]
		nx, ny, nz := uy*vz-uz*vy, uz*vx-ux*vz, ux*vy-uy*vx
		for _, i := range [3]int32{a, b, c} {
			normals[i], normals[i+1], normals[i+2] = normals[i]+nx, normals[i+1]+ny, normals[i+2]+nz
		}
	}
	for i := 0; i+2 < len(normals); i += 3 {
		n := float32(math.Sqrt(float64(normals[i]*normals[i] + normals[i+1]*normals[i+1] + normals[i+2]*normals[i+2])))
		if n < 1e-20 {
			normals[i+1], n = 1, 1
		}
		normals[i], normals[i+1], normals[i+2] = normals[i]/n, normals[i+1]/n, normals[i+2]/n
	}
}

// points are those of the cloth in a picture.
func (r *clothRun) points(p *Pieces) []geom.Vec {
	out := make([]geom.Vec, len(r.cloth.Mass))
	per := len(r.of)
	for k := range r.t.drape.Count {
		for v, at := range r.of {
			i := 3 * (k*per + v)
			out[k*r.perPiece+int(at)] = geom.V(float64(p.Positions[i]), float64(p.Positions[i+1]), float64(p.Positions[i+2]))
		}
	}
	return out
}
