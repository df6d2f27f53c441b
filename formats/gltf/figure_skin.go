package gltf

import (
	"context"
	"errors"
	"fmt"
	"math"
	"sort"

	"bead/core/figure"
	"bead/core/geom"
)

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
	for _, k := range b.order {
		m, list := skin.Mesh, b.faces[k]
		if len(b.src.Materials) > 1 { // else it is all of one
			m.Groups = append(m.Groups, geom.Group{Name: b.src.materialName(k), First: len(m.Indices), Count: len(list)})
		}
		m.Indices = append(m.Indices, list...)
	}
	if skin.Mesh.Tiles = !b.bare; b.bare {
		skin.Mesh.UVs = nil
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
	joints, err := b.numbers(jk, 4, "VEC4")
	if err != nil {
		return err
	}
	weights, err := b.values(wk, 4, "VEC4")
	if err != nil {
		return err
	}
	if joints, weights, err = b.strongest(p, joints, weights); err != nil {
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
	m := skin.Mesh
	for i, v := range flat {
		if math.IsNaN(v) || math.Abs(v) > maxCoordinate || math.IsNaN(normals[i]) {
			return fmt.Errorf("vertex %d is not a place within ±1e9", i/3)
		}
		m.Positions, m.Normals = append(m.Positions, float32(v)), append(m.Normals, float32(normals[i]))
	}
	if err := b.held(skin, joints, weights); err != nil {
		return err
	}
	if err := b.dressed(p, index, from); err != nil {
		return err
	}
	if err := b.covered(m, p, n); err != nil {
		return err
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

// held adds what joints vertices go along with, four a vertex.
func (b *boned) held(skin *figure.Skin, joints, weights []float64) error {
	listed := b.src.Skins[0].Joints
	for v := range len(joints) / 4 {
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
	return nil
}

// dressed adds triangles to those of a primitive's material, with their vertices counted from one on.
func (b *boned) dressed(p *sourcePrimitive, index []int32, from uint32) error {
	material := -1
	if p.Material != nil && *p.Material >= 0 && *p.Material < len(b.src.Materials) {
		material = *p.Material
	}
	if b.faces == nil {
		b.faces = map[int][]uint32{}
	}
	if b.faces[material] == nil {
		if len(b.order) == maxMaterials {
			return fmt.Errorf("more than %d materials: up to so many are read", maxMaterials)
		}
		b.order = append(b.order, material)
	}
	for i := range len(index) / 3 * 3 {
		b.faces[material] = append(b.faces[material], from+uint32(index[i]))
	}
	return nil
}

// covered adds a primitive's places on its images, from the lower left.
func (b *boned) covered(m *geom.Mesh, p *sourcePrimitive, n int) error {
	k, has := p.Attributes["TEXCOORD_0"]
	if !has || b.bare {
		b.bare = true
		return nil
	}
	flat, err := b.pairs(k)
	if err != nil {
		return err
	}
	if len(flat) != 2*n {
		return fmt.Errorf("%d vertices have %d places on an image", n, len(flat)/2)
	}
	for i := 0; i < len(flat); i += 2 {
		m.UVs = append(m.UVs, float32(flat[i]), float32(1-flat[i+1]))
	}
	return nil
}

// strongest takes in the further joints of vertices that go along with more than four: the four that
// count most stay, and share what the others had.
func (b *boned) strongest(p *sourcePrimitive, joints, weights []float64) (js, ws []float64, err error) {
	const most = 4 // sets of four
	sets := 1
	for ; sets < most; sets++ {
		jk, has := p.Attributes[fmt.Sprintf("JOINTS_%d", sets)]
		wk, also := p.Attributes[fmt.Sprintf("WEIGHTS_%d", sets)]
		if !has || !also {
			break
		}
		more, err := b.numbers(jk, 4, "VEC4")
		if err != nil {
			return nil, nil, err
		}
		their, err := b.values(wk, 4, "VEC4")
		if err != nil {
			return nil, nil, err
		}
		if len(more) != len(their) || len(more) != len(joints)/sets {
			return nil, nil, fmt.Errorf("vertices have %d joints and %d weights more", len(more)/4, len(their)/4)
		}
		joints, weights = append(joints, more...), append(weights, their...)
	}
	if sets == 1 {
		return joints, weights, nil
	}
	n := len(joints) / 4 / sets
	type hold struct{ joint, weight float64 }
	for v := range n {
		var all []hold
		whole := 0.0
		for s := range sets {
			for c := range 4 {
				k := 4*(s*n+v) + c
				all = append(all, hold{joints[k], weights[k]})
				whole += weights[k]
			}
		}
		sort.SliceStable(all, func(i, j int) bool { return all[i].weight > all[j].weight })
		left := 0.0
		for _, h := range all[:4] {
			left += h.weight
		}
		for _, h := range all[:4] {
			if left > 0 {
				h.weight *= whole / left
			}
			js, ws = append(js, h.joint), append(ws, h.weight)
		}
	}
	return js, ws, nil
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
