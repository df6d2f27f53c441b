package gltf

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"math"

	"bead/core/figure"
	"bead/core/geom"
)

// ReadFigure returns the figure of the file's first skin with its first animation: its joints, their
// keys, and the meshes that the skin moves as one. Any bytes give a figure or an error.
func ReadFigure(ctx context.Context, data []byte) (*figure.Figure, error) {
	r, err := open(data)
	if err != nil {
		return nil, err
	}
	if len(r.src.Skins) == 0 {
		return nil, errors.New("the file has no skin: a mesh whose vertices go along with joints is accepted")
	}
	b := &boned{reader: r, f: &figure.Figure{}, at: map[int]int{}}
	if err := b.joints(); err != nil {
		return nil, err
	}
	if err := b.keys(ctx); err != nil {
		return nil, err
	}
	if err := b.skin(ctx); err != nil {
		return nil, err
	}
	for i := range b.f.Joints {
		b.told = append(b.told, len(b.f.Joints[i].Ends) > 0)
	}
	if err := b.f.Check(); err != nil {
		return nil, err
	}
	b.tips()
	b.fold()
	return b.f, b.f.Check()
}

// boned reads the figure of a file.
type boned struct {
	*reader
	f      *figure.Figure
	nodes  []int            // of each joint
	at     map[int]int      // the joint that a node is
	above  affine           // what the root hangs from
	size   float64          // by which that scales
	turned geom.Quat        // by which that turns
	told   []bool           // of each joint: the file names its tips
	faces  map[int][]uint32 // of the skin, by their materials
	order  []int            // of those, as they come
	bare   bool             // some primitive has no texture coordinates
}

// joints orders the skin's joints from the root on. Nodes between two joints are joints as well.
func (b *boned) joints() error {
	parent, err := b.parents()
	if err != nil {
		return err
	}
	root, wanted, err := b.wanted(parent)
	if err != nil {
		return err
	}
	b.above = (&sourceNode{}).place()
	for at := parent[root]; at >= 0; at = parent[at] {
		b.above = b.src.Nodes[at].place().times(b.above)
	}
	if err := b.visit(root, -1, wanted, map[string]bool{}); err != nil {
		return err
	}
	turn, size, err := rigidOf(b.above)
	if err != nil {
		return errors.New("what the joints hang from is sheared, or scaled unevenly: an even scale is read")
	}
	b.size, b.turned = size, turn.Quat()
	return nil
}

// parents is what each node hangs from, -1 of those that hang from none.
func (b *boned) parents() ([]int, error) {
	n := len(b.src.Nodes)
	parent := make([]int, n)
	for i := range parent {
		parent[i] = -1
	}
	for i := range b.src.Nodes {
		for _, c := range b.src.Nodes[i].Children {
			if c < 0 || c >= n || parent[c] >= 0 || c == i {
				return nil, fmt.Errorf("node %d hangs from two others, or is not there", c)
			}
			parent[c] = i
		}
	}
	return parent, nil
}

// wanted are the nodes that are joints of the figure, and the root of them.
func (b *boned) wanted(parent []int) (root int, wanted map[int]bool, err error) {
	n := len(parent)
	listed := map[int]bool{}
	for _, j := range b.src.Skins[0].Joints {
		if j < 0 || j >= n {
			return 0, nil, fmt.Errorf("the skin names node %d, which is not there", j)
		}
		listed[j] = true
	}
	if len(listed) == 0 {
		return 0, nil, errors.New("the skin has no joints")
	}
	if len(listed) > figure.MaxJoints {
		return 0, nil, fmt.Errorf("the skin has %d joints: up to %d are read", len(listed), figure.MaxJoints)
	}
	// What hangs between two joints belongs to the figure.
	wanted = map[int]bool{}
	roots := map[int]bool{}
	for j := range listed {
		top := j
		for at, steps := j, 0; at >= 0; at, steps = parent[at], steps+1 {
			if steps > n {
				return 0, nil, fmt.Errorf("node %d hangs from itself", j)
			}
			if listed[at] {
				top = at
			}
		}
		root, roots[top] = top, true
		for at := j; at != top; at = parent[at] {
			wanted[at] = true
		}
		wanted[top] = true
	}
	if len(roots) > 1 {
		return 0, nil, fmt.Errorf("the joints hang from %d roots: a figure with one root is accepted", len(roots))
	}
	return root, wanted, nil
}

// visit adds a node and what hangs from it to the figure, below joint from.
func (b *boned) visit(node, from int, wanted map[int]bool, names map[string]bool) error {
	if !wanted[node] {
		return nil
	}
	s := &b.src.Nodes[node]
	rest, size, err := rigidOf(s.place())
	if err != nil || math.Abs(size-1) > 1e-4 {
		return fmt.Errorf("joint %q is scaled or sheared at rest: joints of their own size are read", s.Name)
	}
	name := s.Name
	if name == "" || len(name) > 120 || names[name] {
		name = fmt.Sprintf("joint %d", len(b.f.Joints)+1)
	}
	names[name] = true
	at := len(b.f.Joints)
	b.at[node], b.nodes = at, append(b.nodes, node)
	b.f.Joints = append(b.f.Joints, figure.Joint{Name: name, Parent: from, Rest: rest, Moves: from < 0, Ends: tipsOf(s)})
	for _, c := range s.Children {
		if err := b.visit(c, at, wanted, names); err != nil {
			return err
		}
	}
	return nil
}

// tipsOf are the tips that a joint's extras name, none where they say something else.
func tipsOf(s *sourceNode) []geom.Vec {
	var extras struct{ Tips [][3]float64 }
	if json.Unmarshal(s.Extras, &extras) != nil || len(extras.Tips) > 64 {
		return nil
	}
	var out []geom.Vec
	for _, e := range extras.Tips {
		out = append(out, geom.FromArray(e))
	}
	return out
}

// tips finds tips for leaf joints that name none: the point of the skin farthest from the joint, among the
// vertices that follow it more than other joints.
func (b *boned) tips() {
	f := b.f
	kids := f.Children()
	for v, w := range f.Skin.Weights {
		for k := range w {
			j := int(f.Skin.Joints[v][k])
			if w[k] < 0.5 || len(kids[j]) > 0 || b.told[j] {
				continue
			}
			p := f.Skin.Mesh.Positions[3*v:]
			at := f.Skin.Binds[j].Apply(geom.V(float64(p[0]), float64(p[1]), float64(p[2])))
			if ends := f.Joints[j].Ends; len(ends) == 0 {
				f.Joints[j].Ends = []geom.Vec{at}
			} else if at.Norm() > ends[0].Norm() {
				ends[0] = at
			}
		}
	}
}

// rigidOf takes an even scale out of a place.
func rigidOf(a affine) (geom.Rigid, float64, error) {
	s := a.x.Norm()
	m := geom.Rigid{P: a.o, X: a.x.Mul(1 / s), Y: a.y.Mul(1 / s), Z: a.z.Mul(1 / s)}
	if !(s > 1e-9) || math.Abs(a.y.Norm()-s) > 1e-3*s || math.Abs(a.z.Norm()-s) > 1e-3*s ||
		m.X.Cross(m.Y).Sub(m.Z).Norm() > 1e-3 || !m.P.IsFinite() {
		return geom.Still, 0, errors.New("no even scale")
	}
	q := m.Quat().Unit()
	return q.At(m.P), s, nil
}

// fold moves the transforms above the root into the figure: rotation and place into the root's keys, the scale
// into every length.
func (b *boned) fold() {
	f := b.f
	above := b.turned.At(b.above.o)
	up := func(m geom.Rigid, root bool) geom.Rigid {
		m.P = m.P.Mul(b.size)
		if root {
			return above.Mul(m)
		}
		return m
	}
	for i := range f.Joints {
		f.Joints[i].Rest = up(f.Joints[i].Rest, i == 0)
		for k := range f.Times {
			m := up(f.Turns[k][i].At(f.Shifts[k][i]), i == 0)
			if i == 0 {
				f.Turns[k][i] = m.Quat()
			}
			f.Shifts[k][i] = m.P
		}
		for e := range f.Joints[i].Ends {
			f.Joints[i].Ends[e] = f.Joints[i].Ends[e].Mul(b.size)
		}
		bind := &f.Skin.Binds[i]
		s := b.size
		bind.X, bind.Y, bind.Z, bind.P = bind.X.Mul(s), bind.Y.Mul(s), bind.Z.Mul(s), bind.P.Mul(s)
	}
}
