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
	nodes  []int       // of each joint
	at     map[int]int // the joint that a node is
	above  affine      // what the root hangs from
	size   float64     // by which that scales
	turned geom.Quat   // by which that turns
	told   []bool      // of each joint: the file names its tips
}

// joints orders the skin's joints from the root on. Nodes between two joints are joints as well.
func (b *boned) joints() error {
	n := len(b.src.Nodes)
	parent := make([]int, n)
	for i := range parent {
		parent[i] = -1
	}
	for i := range b.src.Nodes {
		for _, c := range b.src.Nodes[i].Children {
			if c < 0 || c >= n || parent[c] >= 0 || c == i {
				return fmt.Errorf("node %d hangs from two others, or is not there", c)
			}
			parent[c] = i
		}
	}
	listed := map[int]bool{}
	for _, j := range b.src.Skins[0].Joints {
		if j < 0 || j >= n {
			return fmt.Errorf("the skin names node %d, which is not there", j)
		}
		listed[j] = true
	}
	if len(listed) == 0 {
		return errors.New("the skin has no joints")
	}
	if len(listed) > figure.MaxJoints {
		return fmt.Errorf("the skin has %d joints: up to %d are read", len(listed), figure.MaxJoints)
	}
	// What hangs between two joints belongs to the figure.
	wanted := map[int]bool{}
	roots := map[int]bool{}
	for j := range listed {
		top := j
		for at, steps := j, 0; at >= 0; at, steps = parent[at], steps+1 {
			if steps > n {
				return fmt.Errorf("node %d hangs from itself", j)
			}
			if listed[at] {
				top = at
			}
		}
		roots[top] = true
		for at := j; at != top; at = parent[at] {
			wanted[at] = true
		}
		wanted[top] = true
	}
	if len(roots) > 1 {
		return fmt.Errorf("the joints hang from %d roots: a figure with one root is accepted", len(roots))
	}
	var root int
	for root = range roots {
	}
	b.above = (&sourceNode{}).place()
	for at := parent[root]; at >= 0; at = parent[at] {
		b.above = b.src.Nodes[at].place().times(b.above)
	}
	names := map[string]bool{}
	var visit func(node, from int) error
	visit = func(node, from int) error {
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
			if err := visit(c, at); err != nil {
				return err
			}
		}
		return nil
	}
	if err := visit(root, -1); err != nil {
		return err
	}
	turn, size, err := rigidOf(b.above)
	if err != nil {
		return errors.New("what the joints hang from is sheared, or scaled unevenly: an even scale is read")
	}
	b.size, b.turned = size, turn.Quat()
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

// tips finds tips for the joints from which nothing hangs and that name none: the place of the skin
// farthest from the joint, of what goes along with it more than with others.
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

// skin reads the meshes of the nodes that the first skin moves, as one.
func (b *boned) skin(ctx context.Context) error {
	s := &b.src.Skins[0]
	skin := &figure.Skin{Mesh: &geom.Mesh{}, Binds: make([]figure.Affine, len(b.f.Joints)), Colour: [4]float32{0.8, 0.8, 0.8, 1}}
	rest := b.f.AtRest()
	for i, m := range rest {
		skin.Binds[i] = figure.Bound(m)
	}
	if s.Binds != nil {
		v, err := b.values(*s.Binds, 16, "MAT4")
		if err != nil {
			return fmt.Errorf("the skin's binds: %w", err)
		}
		if len(v) < 16*len(s.Joints) {
			return fmt.Errorf("the skin has binds for %d joints of %d", len(v)/16, len(s.Joints))
		}
		for k, node := range s.Joints {
			m := v[16*k:]
			a := figure.Affine{X: geom.V(m[0], m[1], m[2]), Y: geom.V(m[4], m[5], m[6]), Z: geom.V(m[8], m[9], m[10]), P: geom.V(m[12], m[13], m[14])}
			if !a.X.IsFinite() || !a.Y.IsFinite() || !a.Z.IsFinite() || !a.P.IsFinite() {
				return fmt.Errorf("the bind of joint %d is no place", k)
			}
			skin.Binds[b.at[node]] = a
		}
	}
	for i := range b.src.Nodes {
		n := &b.src.Nodes[i]
		if n.Skin == nil || *n.Skin != 0 || n.Mesh == nil {
			continue
		}
		if *n.Mesh < 0 || *n.Mesh >= len(b.src.Meshes) {
			return fmt.Errorf("node %d names mesh %d, which is not there", i, *n.Mesh)
		}
		m := &b.src.Meshes[*n.Mesh]
		for k := range m.Primitives {
			if err := ctx.Err(); err != nil {
				return err
			}
			if err := b.weighted(skin, &m.Primitives[k]); err != nil {
				return fmt.Errorf("mesh %d, primitive %d: %w", *n.Mesh, k, err)
			}
		}
	}
	if len(skin.Mesh.Indices) == 0 {
		return errors.New("no mesh goes along with the file's first skin")
	}
	b.f.Skin = skin
	return nil
}

// weighted adds a primitive's triangles with their weights.
func (b *boned) weighted(skin *figure.Skin, p *sourcePrimitive) error {
	if p.Mode != nil && *p.Mode != modeTriangles {
		return nil
	}
	k, given := p.Attributes["POSITION"]
	if !given {
		return nil
	}
	if err := b.spend(k, p); err != nil {
		return err
	}
	flat, err := b.floats(k)
	if err != nil {
		return err
	}
	n := len(flat) / 3
	jk, has := p.Attributes["JOINTS_0"]
	wk, also := p.Attributes["WEIGHTS_0"]
	if !has || !also {
		return errors.New("it has no JOINTS_0 and WEIGHTS_0: vertices that go along with joints are accepted")
	}
	if _, more := p.Attributes["JOINTS_1"]; more {
		return errors.New("its vertices go along with more than four joints: up to four are read")
	}
	joints, err := b.numbers(jk, 4, "VEC4")
	if err != nil {
		return err
	}
	weights, err := b.values(wk, 4, "VEC4")
	if err != nil {
		return err
	}
	if len(joints) != 4*n || len(weights) != 4*n {
		return fmt.Errorf("%d vertices have %d joints and %d weights", n, len(joints)/4, len(weights)/4)
	}
	index := make([]int32, n)
	for i := range index {
		index[i] = int32(i)
	}
	if p.Indices != nil {
		if index, err = b.indices(*p.Indices, n); err != nil {
			return err
		}
	}
	var normals []float64
	if nk, has := p.Attributes["NORMAL"]; has {
		if normals, err = b.floats(nk); err != nil {
			return err
		}
	}
	if len(normals) != 3*n {
		normals = faceted(flat, index)
	}
	from := uint32(len(skin.Weights))
	m, listed := skin.Mesh, b.src.Skins[0].Joints
	for i, v := range flat {
		if math.IsNaN(v) || math.Abs(v) > maxCoordinate || math.IsNaN(normals[i]) {
			return fmt.Errorf("vertex %d is not a place within ±1e9", i/3)
		}
		m.Positions, m.Normals = append(m.Positions, float32(v)), append(m.Normals, float32(normals[i]))
	}
	for v := range n {
		var js [4]uint16
		var ws [4]float32
		for c := range 4 {
			w := weights[4*v+c]
			j := int(joints[4*v+c])
			if w != 0 && j >= len(listed) {
				return fmt.Errorf("vertex %d goes along with joint %d of %d", v, j, len(listed))
			}
			if ws[c] = float32(w); w != 0 {
				js[c] = uint16(b.at[listed[j]])
			}
		}
		skin.Joints, skin.Weights = append(skin.Joints, js), append(skin.Weights, ws)
	}
	for i := range len(index) / 3 * 3 {
		m.Indices = append(m.Indices, from+uint32(index[i]))
	}
	if p.Material != nil && *p.Material >= 0 && *p.Material < len(b.src.Materials) {
		if c := b.src.Materials[*p.Material].PBR.Colour; c != nil && from == 0 {
			for k, v := range c {
				skin.Colour[k] = float32(v)
			}
		}
	}
	return nil
}

// numbers returns an accessor of whole numbers.
func (b *boned) numbers(k, components int, kind string) ([]float64, error) {
	v, err := b.values(k, components, kind)
	if err != nil {
		return nil, err
	}
	times := 1.0
	switch b.src.Accessors[k].ComponentType {
	case 5121:
		times = 255
	case 5123:
		times = 65535
	}
	for i := range v {
		v[i] = math.Round(v[i] * times)
	}
	return v, nil
}

// faceted are normals of triangles, the mean of those that share a vertex.
func faceted(flat []float64, index []int32) []float64 {
	out := make([]float64, len(flat))
	at := func(i int32) geom.Vec { return geom.V(flat[3*i], flat[3*i+1], flat[3*i+2]) }
	for i := 2; i < len(index); i += 3 {
		n := at(index[i-1]).Sub(at(index[i-2])).Cross(at(index[i]).Sub(at(index[i-2])))
		for _, k := range index[i-2 : i+1] {
			out[3*k] += n.X
			out[3*k+1] += n.Y
			out[3*k+2] += n.Z
		}
	}
	for i := 0; i+2 < len(out); i += 3 {
		n := geom.V(out[i], out[i+1], out[i+2]).Unit()
		out[i], out[i+1], out[i+2] = n.X, n.Y, n.Z
	}
	return out
}

// fold takes what the root hangs from into the figure: its turn and place into the root's keys, its
// scale into every length.
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
