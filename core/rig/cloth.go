package rig

import (
	"context"
	"crypto/sha256"
	"encoding/binary"
	"encoding/json"
	"fmt"
	"math"
	"reflect"
	"slices"
	"strconv"
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
	maxClothSamples = 12_000_000 // points in all frames that are kept
	maxClothSteps   = 4e9        // points times steps that are worked out

	ownStretch      = 0.004 // share by which small steps may add to what its weight stretches it
	leastSteps      = 8
	mostSteps       = 400
	touchShare      = 0.75 // of the spacing, at which points of one cloth touch
	gustHarmonics   = 5
	clothVersion    = "cloth 5 " // of the method: frames of another are not taken from where they are kept
	gustLength      = 1.5        // metres that a gust is long, of its first harmonic
	lookAroundEvery = 4          // times a frame, where points have gone far
	copiesApart     = 10         // lengths of the cloth between two copies, where their points are at rest
	lookAhead       = 0.4        // of the way at which points touch, that they may go before the next look
)

// densities are those of the fluid about a cloth, kg/m^3 (from memory: air at 20 degrees, sea water).
var densities = map[string]float64{scene.MediumAir: 1.204, scene.MediumWater: 1025}

// clothRun is the simulation of a drape. Frames are computed one after another and kept.
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
	broken   atomic.Bool  // it has been thrown out of all bounds: from there on it stands still
	looked   []geom.Vec   // where points were when what could touch was found
	reach    float64      // metres that they may go before it is found anew
	way      pinWay
	solids   []clothSolid
}

// clothSolid is a fixture that cloth cannot go through.
type clothSolid struct {
	fixture int
	mesh    *surface.Mesh
	box     geom.Box
	pose    geom.Rigid
	back    geom.Rigid
}

// cloth makes the simulation of a drape, or returns that of the last compile where nothing that it depends on
// has changed.
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

// clothKey is a hash of all of the document that a simulation could depend on. What is only seen is left out, so
// that a camera or a colour can be changed while a cloth falls.
func (c *compiler) clothKey(t *drape) string {
	d := unseen(c.Doc)
	own := *t.rig
	own.Name, own.InStep, own.Tints = "", "", nil
	rest, _ := json.Marshal([]any{d.Paths, d.Carriers, d.Tugs, own})
	named := func(r scene.Rig) bool { // by its id, or by a value of it
		return r.ID != own.ID && (strings.Contains(string(rest), strconv.Quote(r.ID)) || strings.Contains(string(rest), "rigs/"+r.ID+"/"))
	}
	if !slices.ContainsFunc(d.Rigs, named) {
		d.Rigs = nil // nothing that holds it up goes by another rig
		if !strings.Contains(string(rest), "cameras/") {
			d.Cameras = nil // nor by a camera
		}
	}
	text, _ := json.Marshal([]any{d, own})
	sum := sha256.Sum256(text)
	return fmt.Sprintf("%x %x", sum, c.Parts[t.Part].Hash)
}

// unseen is a document without what nothing moves by: names, materials, light, and the files that parts name by
// what they hold.
func unseen(of *scene.Document) scene.Document {
	d := *of
	d.Name, d.Units, d.Plays = "", "", ""
	d.Materials, d.Light, d.Assets = nil, nil, nil
	d.Parts, d.Paths, d.Fixtures = slices.Clone(d.Parts), slices.Clone(d.Paths), slices.Clone(d.Fixtures)
	d.Carriers, d.Tugs = slices.Clone(d.Carriers), slices.Clone(d.Tugs)
	for i := range d.Parts {
		d.Parts[i].Name, d.Parts[i].Material, d.Parts[i].Surfaces = "", "", nil
	}
	for i := range d.Paths {
		d.Paths[i].Name = ""
	}
	for i := range d.Fixtures {
		d.Fixtures[i].Name = ""
	}
	for i := range d.Carriers {
		d.Carriers[i].Name = ""
	}
	for i := range d.Tugs {
		d.Tugs[i].Name = ""
	}
	if d.Ground != nil {
		ground := *d.Ground
		ground.Material = ""
		if d.Ground = &ground; reflect.ValueOf(ground).IsZero() {
			d.Ground = nil // level, as without
		}
	}
	return d
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
	// All copies are points of one cloth: they can touch each other.
	var all []geom.Vec
	var faces [][3]int32
	for k := range d.Count {
		base := int32(k * len(points))
		// At rest copies are far apart, so that they do not count as neighbours.
		for _, p := range points {
			all = append(all, p.Add(geom.V(0, 0, copiesApart*float64(k)*body.Length())))
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
		if c.PartFaulty(x.Part) || c.Doc.Fixtures[i].Guide || c.Doc.Parts[x.Part].Guide {
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

// advance computes one more frame. Its error is that of ctx.
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
		if r.broken.Load() {
			break
		}
		if err := ctx.Err(); err != nil {
			// What was begun is put back when nobody waits for it, so that the frame comes out the same the next time.
			copy(r.cloth.X, before)
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
			r.lookAround(dt*float64(look), k == 0)
		}
		r.cloth.Step(dt, &r.around)
	}
	// A frame that went out of bounds is not kept: the cloth stays where it was, and is said to be broken.
	if slices.ContainsFunc(r.cloth.X, outOfBounds) {
		r.broken.Store(true)
		copy(r.cloth.X, before)
	}
	r.worked.Add(1)
	switch {
	case r.settle > 0:
		// The settled state is the first frame, unless rounds are gone through first.
		if r.settle--; r.settle == 0 && r.round == 0 {
			r.keep(0)
		}
	case r.round > 0:
		r.at++
		// The end of the last round is kept, to ease the end of the range into its beginning.
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
	// Written once, whole: a part of a simulation is never taken for all of it.
	if r.whole() && r.kept != nil && !r.broken.Load() {
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

// farthestCloth is how far from the middle of the world cloth may come, metres.
const farthestCloth = 1e7

// outOfBounds is also true of places that are not finite.
func outOfBounds(p geom.Vec) bool {
	return !(math.Abs(p.X) < farthestCloth && math.Abs(p.Y) < farthestCloth && math.Abs(p.Z) < farthestCloth)
}

// recall reads all frames from the store, where they are complete there.
func (r *clothRun) recall() {
	if r.kept == nil {
		return
	}
	each := 3 * len(r.cloth.X)
	data, there := r.kept.Get(r.key)
	// A length that does not fit is of another kind of keeping: then it is simulated again.
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

// lookAround finds the points that could touch within some seconds; it does nothing while those found before
// still cover them. A frame always begins with a new search, so that a frame that was interrupted gives the
// same bits when it is computed again.
func (r *clothRun) lookAround(seconds float64, anew bool) {
	fastest := 0.0
	for _, v := range r.cloth.V {
		fastest = max(fastest, v.Norm2())
	}
	// Cloth touches itself a little nearer than its points are apart: neighbours do not push each other.
	near := touchShare * r.cloth.Spacing()
	// As far as the fastest point could go until the next look, but no farther than points that touch can matter.
	way := min(math.Sqrt(fastest)*seconds, 2*near) + 0.1*near
	went := 0.0 // since it was looked at
	if !anew {
		for i, p := range r.cloth.X {
			went = max(went, p.Sub(r.looked[i]).Norm2())
		}
		if math.Sqrt(went)+way <= r.reach {
			return
		}
	}
	r.looked, r.reach = append(r.looked[:0], r.cloth.X...), way+lookAhead*near
	r.cloth.LookAround(near, r.reach, r.rest)
}

func (r *clothRun) snapshot() []float32 {
	out := make([]float32, 0, 3*len(r.cloth.X))
	for _, p := range r.cloth.X {
		out = append(out, float32(p.X), float32(p.Y), float32(p.Z))
	}
	return out
}

// keep stores the state as frame k of the range, blended into the end of the round before where the end is
// eased.
func (r *clothRun) keep(k int) {
	out := r.snapshot()
	if e := r.t.drape.Ease; e > 0 && k >= r.count-1-e {
		at := k - (r.count - 1 - e)
		// The share of the round before rises smoothly, from none to all in the last frame.
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
