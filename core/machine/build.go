package machine

import (
	"context"
	"fmt"
	"slices"

	"bead/core/figure"
	"bead/core/geom"
	"bead/core/motion"
	"bead/core/path"
	"bead/core/scene"
	"bead/core/surface"
)

// Rigs is what paths ask of the rigs that are made beside them.
type Rigs interface {
	// Tracked makes rig i and returns how many pieces it has and where one of them, from 0, is in the world at a
	// frame. at is nil where the rig has a fault, which is said.
	Tracked(i int) (pieces int, at func(piece int, frame float64) geom.Vec)
}

// Sources are what a document is built with.
type Sources struct {
	// Meshes returns the mesh of an asset.
	Meshes func(asset string) (*surface.Mesh, error)
	// Figures returns the figure of an asset.
	Figures func(asset string) (*figure.Figure, error)
	// Memo, where given, holds what the last build measured.
	Memo *Memo
}

// Builder makes paths, carriers and values in the order in which they need one another, and says what has a
// fault. Rigs are made with it in the same order.
type Builder struct {
	*Machine
	Sources
	rigs       Rigs
	faults     scene.Faults
	partAt     map[string]int
	fixtureAt  map[string]int
	rigAt      map[string]int
	state      map[string]state
	under      []needed // what is being made, outermost first
	faultyPart []bool
	carrierAt  map[string]int
	slots      map[string]*scene.Slot
	slotList   []scene.Slot
	spent      spent
}

// Begin returns a builder of a checked document. It gives up when ctx ends, until End is called.
func Begin(ctx context.Context, d *scene.Document, from Sources, rigs Rigs) *Builder {
	if from.Memo == nil {
		from.Memo = new(Memo)
	}
	c := &Builder{
		Machine: &Machine{
			Doc:      d,
			Clock:    motion.Clock{FPS: d.FPS, First: float64(d.Range.First)},
			Paths:    make([]*path.Curve, len(d.Paths)),
			Parts:    make([]Part, len(d.Parts)),
			Shaped:   make([]Shaped, len(d.Paths)),
			Fixtures: make([]Fixture, len(d.Fixtures)),
			carriers: make([]carrier, len(d.Carriers)),
			parents:  make([]int, len(d.Paths)),
			rests:    make([]geom.Rigid, len(d.Paths)),
			tugs:     make([][]tug, len(d.Paths)),
			deforms:  make([]bool, len(d.Paths)),
			still:    make([]still, len(d.Paths)),
			signals:  map[string]*Signal{},
			pathAt:   map[string]int{},
			belts:    make([]*belt, len(d.Paths)),
			winches:  make([]*Winch, len(d.Paths)),
			waves:    map[*scene.WaveStep]*wave{},
			lags:     map[*scene.LagStep]*lag{},
			ground:   d.Ground.Profile(),
			stands:   ByFrame[geom.Rigid]{most: smallMost},
			fits:     ByFrame[lie]{most: smallMost},
			curves:   ByFrame[*path.Curve]{Spans: func(c *path.Curve) int { return len(c.Spans()) }},
			stop:     new(path.Stop),
		},
		Sources: from, rigs: rigs, state: map[string]state{},
		partAt: map[string]int{}, fixtureAt: map[string]int{}, rigAt: map[string]int{}, carrierAt: map[string]int{},
		faultyPart: make([]bool, len(d.Parts)), slots: map[string]*scene.Slot{},
	}
	c.stop.Arm(ctx)
	c.Memo.next()
	c.Memo.spans.Stop = c.stop
	c.index()
	return c
}

// index finds things by their ids.
func (c *Builder) index() {
	d := c.Doc
	slots := d.Slots()
	c.slotList = slots
	for i := range slots {
		c.slots[slots[i].Ref] = &slots[i]
	}
	for i := range d.Carriers {
		c.carrierAt[d.Carriers[i].ID] = i
	}
	for i := range d.Paths {
		c.pathAt[d.Paths[i].ID] = i
		c.rests[i] = d.Paths[i].Rest.Rigid() // where carriers look for their wheels
	}
	for i := range d.Rigs {
		c.rigAt[d.Rigs[i].ID] = i
	}
	for i := range d.Parts {
		c.partAt[d.Parts[i].ID] = i
	}
	for i := range d.Fixtures {
		c.fixtureAt[d.Fixtures[i].ID] = i
	}
}

// Make makes the parts, fixtures, paths and carriers, and the rigs that paths ask for.
func (c *Builder) Make() {
	for i := range c.Doc.Parts {
		c.part(i)
	}
	for i := range c.Doc.Fixtures {
		c.fixture(i)
	}
	for i := range c.Doc.Paths {
		c.Path(i)
	}
	for i := range c.Doc.Carriers {
		c.Carrier(i)
	}
}

// Values makes every value that nothing has asked for yet, and lists those that move.
func (c *Builder) Values() {
	for i := range c.slotList {
		c.Value(c.slotList[i].Ref)
	}
	c.findMoving(c.slotList)
}

// End lets go of the context. The error is a scene.Faults with the addresses of what cannot be made, or the
// context's when that has ended.
func (c *Builder) End(ctx context.Context) error {
	c.stop.LetGo()
	if err := ctx.Err(); err != nil {
		return err
	}
	if len(c.faults) > 0 {
		return c.Doc.Addressed(c.faults)
	}
	return nil
}

// Faulty reports whether something has had a fault so far.
func (c *Builder) Faulty() bool { return len(c.faults) > 0 }

// PathAt is the number of a path. A checked document refers to nothing that is not there.
func (c *Builder) PathAt(id string) int { return c.pathAt[id] }

// PartAt is the number of a part.
func (c *Builder) PartAt(id string) int { return c.partAt[id] }

// RigAt is the number of a rig.
func (c *Builder) RigAt(id string) int { return c.rigAt[id] }

// CarrierAt is the number of a carrier.
func (c *Builder) CarrierAt(id string) int { return c.carrierAt[id] }

// PartFaulty reports whether a part could not be made.
func (c *Builder) PartFaulty(i int) bool { return c.faultyPart[i] }

func (c *Builder) fixture(i int) {
	d := &c.Doc.Fixtures[i]
	f := &c.Fixtures[i]
	f.Part = c.partAt[d.Part]
	a := &c.Parts[f.Part].Axes
	if c.faultyPart[f.Part] {
		return
	}
	m := d.Stand()
	fr := geom.Frame{P: m.P, T: m.Z, U: m.Y}
	f.at, f.pivot = fr.P, a.Pivot
	f.Carrier = c.CarrierIndex(c.Doc.Parent(d.Carrier))
	f.x, f.y, f.z = a.In(fr)
	f.Rest = geom.Rigid{P: f.ToWorld(geom.Vec{}), X: f.x, Y: f.y, Z: f.z}
}

// needed is a thing that is being made.
type needed struct{ key, name, address string }

// ringNamed is how many of those in a ring are named with their places.
const ringNamed = 20

type state uint8

const (
	unmade state = iota
	making
	made
)

// Say says a fault at an address in the document, such as "paths[2].shape".
func (c *Builder) Say(err error, format string, args ...any) {
	c.faults = append(c.faults, scene.Fault{Address: fmt.Sprintf(format, args...), Message: err.Error()})
}

// Once runs make for a thing that others may need, once, and reports rings in which things need one another.
// It does nothing when the context has ended.
func (c *Builder) Once(what, id, name, address string, make func()) {
	if c.Stopped() {
		return
	}
	n := needed{what + " " + id, name, address}
	switch c.state[n.key] {
	case made:
		return
	case making:
		// Name every member of the ring with its address, this one first.
		ring := c.under[slices.IndexFunc(c.under, func(u needed) bool { return u.key == n.key }):]
		for k := range min(len(ring), ringNamed) {
			text := ring[k].name
			for i := 1; i < len(ring); i++ {
				text += " needs " + ring[(k+i)%len(ring)].name + ", which"
			}
			c.Say(fmt.Errorf("goes round in a ring: %s needs %s", text, ring[k].name), "%s", ring[k].address)
		}
		return
	}
	c.state[n.key] = making
	c.under = append(c.under, n)
	make()
	c.under = c.under[:len(c.under)-1]
	c.state[n.key] = made
}
