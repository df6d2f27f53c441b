package gltf

import (
	"encoding/binary"
	"fmt"
	"math"
)

// sizes of component types in bytes.
var sizes = map[int]int{5121: 1, 5123: 2, typeUint32: 4, typeFloat32: 4}

// elements returns the bytes of an accessor from its first element on, and the
// stride. Everything it says is held against what is there.
func (r *reader) elements(k, components int) (a *sourceAccessor, b []byte, stride int, err error) {
	if k < 0 || k >= len(r.src.Accessors) {
		return nil, nil, 0, fmt.Errorf("accessor %d is not there", k)
	}
	a = &r.src.Accessors[k]
	size := sizes[a.ComponentType] * components
	if a.BufferView == nil || a.Sparse != nil || size == 0 {
		return nil, nil, 0, fmt.Errorf("accessor %d is sparse, empty or of a type that is not read", k)
	}
	if *a.BufferView < 0 || *a.BufferView >= len(r.src.BufferViews) {
		return nil, nil, 0, fmt.Errorf("accessor %d names a buffer view that is not there", k)
	}
	v := r.src.BufferViews[*a.BufferView]
	if v.Buffer < 0 || v.Buffer >= len(r.buffers) {
		return nil, nil, 0, fmt.Errorf("buffer view %d names a buffer that is not there", *a.BufferView)
	}
	buf := r.buffers[v.Buffer]
	if v.ByteOffset < 0 || v.ByteLength < 0 || v.ByteOffset > len(buf) || v.ByteLength > len(buf)-v.ByteOffset {
		return nil, nil, 0, fmt.Errorf("buffer view %d reaches beyond its buffer", *a.BufferView)
	}
	if stride = v.ByteStride; stride == 0 {
		stride = size
	}
	view := buf[v.ByteOffset : v.ByteOffset+v.ByteLength]
	if stride < size || stride > 252 || a.ByteOffset < 0 || a.Count < 1 || a.Count > len(buf) ||
		a.ByteOffset > len(view) || (a.Count-1)*stride+size > len(view)-a.ByteOffset {
		return nil, nil, 0, fmt.Errorf("accessor %d reaches beyond its buffer view", k)
	}
	return a, view[a.ByteOffset:], stride, nil
}

// values returns an accessor as numbers, so many an element. Whole numbers that stand for shares of 1
// are those (glTF 2.0, 3.11), for weights and turns.
func (r *reader) values(k, components int, kind string) ([]float64, error) {
	a, b, stride, err := r.elements(k, components)
	if err != nil {
		return nil, err
	}
	if a.Type != kind {
		return nil, fmt.Errorf("accessor %d is %s where %s is wanted", k, a.Type, kind)
	}
	out := make([]float64, 0, components*a.Count)
	for i := range a.Count {
		for c := range components {
			e := b[i*stride+c*sizes[a.ComponentType]:]
			switch a.ComponentType {
			case typeFloat32:
				out = append(out, float64(math.Float32frombits(binary.LittleEndian.Uint32(e))))
			case 5121:
				out = append(out, float64(e[0])/255)
			case 5123:
				out = append(out, float64(binary.LittleEndian.Uint16(e))/65535)
			default:
				return nil, fmt.Errorf("accessor %d holds whole numbers of four bytes, which are not read here", k)
			}
		}
	}
	return out, nil
}

// floats returns a VEC3 accessor of floats as a flat list.
func (r *reader) floats(k int) ([]float64, error) {
	a, b, stride, err := r.elements(k, 3)
	if err != nil {
		return nil, err
	}
	if a.Type != "VEC3" || a.ComponentType != typeFloat32 {
		return nil, fmt.Errorf("accessor %d holds positions that are not three floats", k)
	}
	out := make([]float64, 0, 3*a.Count)
	for i := range a.Count {
		for c := range 3 {
			out = append(out, float64(math.Float32frombits(binary.LittleEndian.Uint32(b[i*stride+4*c:]))))
		}
	}
	return out, nil
}

func (r *reader) indices(k, vertices int) ([]int32, error) {
	a, b, stride, err := r.elements(k, 1)
	if err != nil {
		return nil, err
	}
	if a.Type != "SCALAR" || a.ComponentType == typeFloat32 {
		return nil, fmt.Errorf("accessor %d holds no indices", k)
	}
	out := make([]int32, a.Count)
	for i := range out {
		var v uint32
		switch e := b[i*stride:]; a.ComponentType {
		case 5121:
			v = uint32(e[0])
		case 5123:
			v = uint32(binary.LittleEndian.Uint16(e))
		default:
			v = binary.LittleEndian.Uint32(e)
		}
		if int64(v) >= int64(vertices) {
			return nil, fmt.Errorf("an index names vertex %d of %d", v, vertices)
		}
		out[i] = int32(v)
	}
	return out, nil
}

// pairs returns an accessor of two numbers each: floats, or whole numbers that stand for 0 to 1.
func (r *reader) pairs(k int) ([]float64, error) {
	a, b, stride, err := r.elements(k, 2)
	if err != nil {
		return nil, err
	}
	if a.Type != "VEC2" {
		return nil, fmt.Errorf("accessor %d holds texture coordinates that are not pairs", k)
	}
	out := make([]float64, 0, 2*a.Count)
	for i := range a.Count {
		for c := range 2 {
			var v float64
			switch e := b[i*stride:]; a.ComponentType {
			case 5121:
				v = float64(e[c]) / 255
			case 5123:
				v = float64(binary.LittleEndian.Uint16(e[2*c:])) / 65535
			case typeFloat32:
				v = float64(math.Float32frombits(binary.LittleEndian.Uint32(e[4*c:])))
			default:
				return nil, fmt.Errorf("accessor %d holds texture coordinates of a kind that is not read", k)
			}
			if !(math.Abs(v) <= maxCoordinate) {
				return nil, fmt.Errorf("a texture coordinate of accessor %d is not a number within ±1e9", k)
			}
			out = append(out, v)
		}
	}
	return out, nil
}
