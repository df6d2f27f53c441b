package server

import (
	"encoding/binary"
	"encoding/json"
	"math"

	"bead/core/check"
	"bead/core/geom"
	"bead/core/report"
	"bead/core/rig"
	"bead/core/scene"
)

// The live channel's binary messages (docs/protocol.md): a header of 24 bytes,
// then sections of a tag, a length and a payload padded to 8 bytes, all
// little-endian.
const (
	wireMagic = 0x44414542 // "BEAD"

	kindScene      = 1 // the answer to an edit: readout, paths, meshes and the frame looked at
	kindFrame      = 2
	kindChecks     = 3
	kindFault      = 4
	kindFilled     = 5 // every frame that will come has come, but those that wait for a simulation
	kindMoved      = 6 // the scene has another revision
	kindSimulating = 7 // how far a simulation is that frames wait for

	tagReadout = 0x44414552 // "READ": JSON
	tagPath    = 0x48544150 // "PATH"
	tagMesh    = 0x4853454D // "MESH"
	tagPieces  = 0x43454950 // "PIEC"
	tagJSON    = 0x4E4F534A // "JSON"
	tagValues  = 0x564C4156 // "VALV"
	tagPoses   = 0x45534F50 // "POSE"
	tagWheels  = 0x4C454857 // "WHEL"
	tagBody    = 0x59444F42 // "BODY"
	tagLooks   = 0x4B4F4F4C // "LOOK": how cameras look
	tagJoints  = 0x4E494F4A // "JOIN": where the joints of a rig's first figure are
	tagWaits   = 0x54494157 // "WAIT": something is shown as it would be without its simulation
)

// Checks is the JSON of a kindChecks message: first the results of a few frames, then how far
// the look at all frames has come (without results), then the results of all.
type Checks struct {
	Results []check.Result `json:"results"`
	// Seen of so many frames of the range were looked at for the results.
	Seen int `json:"seen"`
	Of   int `json:"of"`
	// Looked is how many frames have been looked at so far, for results to come; 0 when none are.
	Looked int `json:"looked"`
	// Waiting are the ids of rigs whose results come when their simulation is done.
	Waiting []string `json:"waiting"`
}

// Moved is the JSON of a kindMoved message: the scene was changed, here or in another window.
type Moved struct {
	Revision int64 `json:"revision"`
}

// Refusal is the JSON of a kindFault message: why a document has no picture.
type Refusal struct {
	Detail string        `json:"detail"`
	Faults []scene.Fault `json:"faults"`
}

// Readout is the JSON of a tagReadout section.
type Readout struct {
	report.Readout
	// Meshes names the mesh of each part, in the order of the parts; a mesh comes
	// once a connection.
	Meshes []string `json:"meshes"`
	// WheelMeshes are those of the wheels of each path.
	WheelMeshes [][]string `json:"wheelMeshes"`
	// Moulds are those of the surfaces that each rig makes itself; their vertices come with the frames.
	Moulds [][]string `json:"moulds"`
}

// message is a binary message being written. Its memory is used again.
type message struct{ b []byte }

func (m *message) start(kind uint16, seq uint32, frame int) {
	m.b = m.b[:0]
	m.b = binary.LittleEndian.AppendUint32(m.b, wireMagic)
	m.b = binary.LittleEndian.AppendUint16(m.b, 1) // version of the protocol
	m.b = binary.LittleEndian.AppendUint16(m.b, kind)
	m.b = binary.LittleEndian.AppendUint32(m.b, seq)
	m.b = binary.LittleEndian.AppendUint32(m.b, uint32(int32(frame)))
	m.b = binary.LittleEndian.AppendUint64(m.b, 0)
}

// section appends a section whose payload fn writes.
func (m *message) section(tag uint32, fn func()) {
	m.u32(tag)
	at := len(m.b)
	m.u32(0)
	fn()
	binary.LittleEndian.PutUint32(m.b[at:], uint32(len(m.b)-at-4))
	for len(m.b)%8 != 0 {
		m.b = append(m.b, 0)
	}
}

func (m *message) u32(v uint32) { m.b = binary.LittleEndian.AppendUint32(m.b, v) }

func (m *message) f64(v float64) {
	m.b = binary.LittleEndian.AppendUint64(m.b, math.Float64bits(v))
}

func (m *message) f32s(v []float32) {
	for _, x := range v {
		m.b = binary.LittleEndian.AppendUint32(m.b, math.Float32bits(x))
	}
}

func (m *message) json(tag uint32, v any) error {
	text, err := json.Marshal(v)
	if err != nil {
		return err
	}
	m.section(tag, func() { m.b = append(m.b, text...) })
	return nil
}

// picture appends a picture: where things are, paths as they are deformed, and one
// section of pieces a rig.
func (m *message) picture(s *rig.Scene, p *rig.Picture) {
	m.section(tagPoses, func() {
		for _, list := range [][]rig.Place{p.Paths, p.Fixtures, p.Carriers} {
			m.u32(uint32(len(list)))
		}
		m.u32(0) // so that what follows stands at eight bytes
		for _, list := range [][]rig.Place{p.Paths, p.Fixtures, p.Carriers} {
			for i := range list {
				m.f32s(list[i][:])
			}
		}
	})
	if len(p.Cameras) > 0 {
		m.section(tagLooks, func() {
			for i := range p.Cameras {
				m.f32s(p.Cameras[i].Place[:])
				m.f32s([]float32{p.Cameras[i].Angle})
			}
		})
	}
	m.section(tagValues, func() {
		for _, v := range p.Values {
			m.f64(v)
		}
	})
	for i, c := range p.Curves {
		if c != nil {
			points, distances := c.Polyline(s.Doc.Paths[i].Chord(c.Length()))
			m.path(i, points, distances)
		}
	}
	for i, wheels := range p.Wheels {
		if len(wheels) == 0 {
			continue
		}
		m.section(tagWheels, func() {
			m.u32(uint32(i))
			m.u32(uint32(len(wheels)))
			for k := range wheels {
				m.f32s(wheels[k].Place[:])
				touches := float32(0)
				if wheels[k].Touches {
					touches = 1
				}
				m.f32s([]float32{touches, float32(wheels[k].From), float32(wheels[k].To)})
			}
		})
	}
	for i := range p.Rigs {
		r := &p.Rigs[i]
		if r.Waits {
			m.section(tagWaits, func() { m.u32(uint32(i)) })
		}
		m.section(tagPieces, func() {
			m.u32(uint32(i))
			m.u32(uint32(len(r.Distances)))
			m.f64(r.Travel)
			m.f64(r.Offset)
			m.f64(r.Roll)
			for _, d := range r.Distances {
				m.f64(d)
			}
			m.f32s(r.Transforms)
		})
		if len(r.Reach) > 0 {
			m.body(i, r)
		}
		if len(r.Joints) > 0 && len(r.Reach) > 0 {
			m.joints(i, r.Joints[:len(r.Joints)/len(r.Reach)])
		}
	}
}

// body appends the pieces of rig i that take the form of the path: their reach, the places of
// their vertices, and their normals in 16 bits a number, which is finer than is seen.
func (m *message) body(i int, r *rig.Pieces) {
	m.section(tagBody, func() {
		m.u32(uint32(i))
		m.u32(uint32(len(r.Reach)))
		for _, x := range r.Reach {
			if !x.Shown { // it covers nothing
				x.Head = x.Tail
			}
			m.f64(x.Tail)
			m.f64(x.Head)
		}
		m.f32s(r.Positions)
		for _, x := range r.Normals {
			m.b = binary.LittleEndian.AppendUint16(m.b, uint16(int16(x*32767)))
		}
	})
}

// joints appends where the joints of the first figure of rig i are.
func (m *message) joints(i int, joints []geom.Rigid) {
	m.section(tagJoints, func() {
		m.u32(uint32(i))
		m.u32(uint32(len(joints)))
		for _, j := range joints {
			m.f32s([]float32{float32(j.P.X), float32(j.P.Y), float32(j.P.Z)})
		}
	})
}

// path appends the drawing of path i.
func (m *message) path(i int, points, distances []float32) {
	m.section(tagPath, func() {
		m.u32(uint32(i))
		m.u32(uint32(len(distances)))
		m.f32s(points)
		m.f32s(distances)
	})
}

// mesh appends a mesh under its name of 16 characters.
func (m *message) mesh(name string, mesh *geom.Mesh) {
	m.section(tagMesh, func() {
		m.b = append(m.b, name...)
		m.u32(uint32(len(mesh.Positions) / 3))
		m.u32(uint32(len(mesh.Indices)))
		m.u32(uint32(len(mesh.UVs) / 2)) // 0 of a mesh without
		m.u32(0)
		m.f32s(mesh.Positions)
		m.f32s(mesh.Normals)
		for _, k := range mesh.Indices {
			m.u32(k)
		}
		m.f32s(mesh.UVs)
	})
}
