package web_test

import (
	"bytes"
	"encoding/binary"
	"encoding/json"
	"fmt"
	"hash/crc32"
	"image"
	"image/color"
	"image/png"
	"math"
	"math/rand/v2"
	"testing"

	"bead/core/geom"
	"bead/core/motion"
	"bead/core/report"
	"bead/core/rig"
	"bead/core/scene"
	"bead/demo"
)

// A camera that is put where a view looks from looks as that does, however it moves: the page works its numbers out,
// the core where it then looks.
func TestCamerasLookFromHere(t *testing.T) {
	d, err := demo.Scene("skid-steer")
	if err != nil {
		t.Fatal(err)
	}
	keyed := motion.Value{Keys: []motion.Key{{Frame: 1, Value: 0, Shape: "straight"}, {Frame: 48, Value: 3, Shape: "straight"}}}
	d.Cameras = []scene.Camera{
		{ID: "a", Name: "stands"}, {ID: "b", Name: "keyed", At: [3]motion.Value{keyed, {}, {Const: 2}}},
		{ID: "c", Name: "rides", Carrier: d.Carriers[len(d.Carriers)-1].ID},
		{ID: "d", Name: "along", Ride: &scene.Ride{Path: d.Paths[0].ID, Distance: motion.Value{Const: 1}}},
		{ID: "e", Name: "beside", At: [3]motion.Value{{Const: 5}}, Beside: &scene.Beside{Rig: d.Rigs[0].ID}},
		{ID: "f", Name: "aimed", Carrier: d.Carriers[0].ID, Aim: &scene.Aim{}},
	}
	d.FillDefaults()
	s, err := rig.Compile(d)
	if err != nil {
		t.Fatal(err)
	}
	const frame = 20
	var p rig.Picture
	s.Frame(&p, frame)
	read := report.Of(s)
	r := rand.New(rand.NewPCG(1, 2))
	var calls [][]any
	var eyes []geom.Rigid
	target := geom.V(1, 2, -3)
	for i := range d.Cameras {
		m := geom.Turned(r.Float64()*6-3, r.Float64()*2-1, r.Float64()-0.5)
		m.P = geom.V(r.Float64()*8-4, r.Float64()*4, r.Float64()*8-4)
		eyes = append(eyes, m)
		now := map[string]any{"frame": frame, "values": p.Values, "moving": read.Values, "pose": p.Cameras[i].Place[:]}
		for k := range d.Carriers {
			if d.Carriers[k].ID == d.Cameras[i].Carrier {
				now["carrier"] = p.Carriers[k][:]
			}
		}
		eye := map[string]any{"at": m.P.Array(), "ahead": m.Z.Array(), "up": m.Y.Array(), "target": target.Array()}
		calls = append(calls, []any{"camera", "lookFrom", d, i, eye, now})
	}
	for i, got := range call(t, calls) {
		after, err := scene.Decode(got[1])
		if err != nil {
			t.Fatalf("%s: %v", d.Cameras[i].Name, err)
		}
		s, err := rig.Compile(after)
		if err != nil {
			t.Fatal(err)
		}
		look, want := s.Look(i, frame).Place.Rigid(), eyes[i]
		if d.Cameras[i].Aim != nil { // it looks at the middle of the view
			want.Z = target.Sub(want.P).Unit()
		}
		if look.P.Sub(want.P).Norm() > 2e-5 || look.Z.Sub(want.Z).Norm() > 2e-6 || d.Cameras[i].Aim == nil && look.Y.Sub(want.Y).Norm() > 2e-6 {
			t.Errorf("%s looks from %v along %v, not from %v along %v", d.Cameras[i].Name, look.P, look.Z, want.P, want.Z)
		}
		if i == 1 && len(after.Cameras[1].At[0].Keys) != 3 {
			t.Errorf("a keyed value has %d keys", len(after.Cameras[1].At[0].Keys))
		}
	}
}

// The moments of a frame lie evenly in the time that the shutter is open, their middle at the frame; a loop's film
// holds each frame once a round.
func TestFilmPlans(t *testing.T) {
	plan := func(moments int, shutter float64, rounds int) map[string]any {
		return map[string]any{"first": 3, "last": 6, "rounds": rounds, "moments": moments, "shutter": shutter}
	}
	got := call(t, [][]any{
		{"film", "momentsOf", 10, plan(1, 0.5, 1)}, {"film", "momentsOf", 10, plan(4, 0.5, 1)}, {"film", "momentsOf", 10, plan(2, 1, 1)}, {"film", "framesOf", plan(1, 0, 2)},
	})
	for i, want := range []string{"[10]", "[9.8125,9.9375,10.0625,10.1875]", "[9.75,10.25]", "[3,4,5,6,3,4,5,6]"} {
		if string(got[i][0]) != want {
			t.Errorf("%s, want %s", got[i][0], want)
		}
	}
}

// An animated PNG by its specification: every chunk's sum holds, its control chunks count on, its first picture is
// read by a reader of plain PNG, and each later one too once its chunks have the plain name.
func TestAnimatedPNG(t *testing.T) {
	var pngs []any
	const w, h, n = 5, 3, 4
	for k := range n {
		m := image.NewNRGBA(image.Rect(0, 0, w, h))
		for i := range w * h {
			m.Set(i%w, i/w, color.NRGBA{uint8(60 * k), uint8(10 * i), 9, uint8(255 - i)})
		}
		var out bytes.Buffer
		if err := png.Encode(&out, m); err != nil {
			t.Fatal(err)
		}
		list := []int{}
		for _, b := range out.Bytes() {
			list = append(list, int(b))
		}
		pngs = append(pngs, list)
	}
	var numbered map[string]byte
	if err := json.Unmarshal(call(t, [][]any{{"apng", "animated", pngs, 24, true}})[0][0], &numbered); err != nil {
		t.Fatal(err)
	}
	data := make([]byte, len(numbered))
	for k, b := range numbered {
		var i int
		if _, err := fmt.Sscan(k, &i); err != nil {
			t.Fatal(err)
		}
		data[i] = b
	}
	var head []byte
	order, pictures := "", 0
	next := uint32(0)
	for at := 8; at < len(data); {
		size := int(binary.BigEndian.Uint32(data[at:]))
		name, body := string(data[at+4:at+8]), data[at+8:at+8+size]
		if crc32.ChecksumIEEE(data[at+4:at+8+size]) != binary.BigEndian.Uint32(data[at+8+size:]) {
			t.Errorf("the sum of %s at %d does not hold", name, at)
		}
		order += name + " "
		switch name {
		case "IHDR":
			head = data[:at+12+size]
		case "acTL":
			if binary.BigEndian.Uint32(body) != n || binary.BigEndian.Uint32(body[4:]) != 0 {
				t.Errorf("acTL % x", body)
			}
		case "fcTL", "fdAT":
			if binary.BigEndian.Uint32(body) != next {
				t.Errorf("%s is number %d, not %d", name, binary.BigEndian.Uint32(body), next)
			}
			next++
			if name == "fcTL" && (binary.BigEndian.Uint32(body[4:]) != w || binary.BigEndian.Uint32(body[8:]) != h ||
				math.Abs(float64(binary.BigEndian.Uint16(body[20:]))/float64(binary.BigEndian.Uint16(body[22:]))-1.0/24) > 1e-6) {
				t.Errorf("fcTL % x", body)
			}
			if name == "fdAT" { // the picture by itself
				chunk := append([]byte("IDAT"), body[4:]...)
				one := binary.BigEndian.AppendUint32(append([]byte(nil), head...), uint32(len(body)-4))
				one = binary.BigEndian.AppendUint32(append(one, chunk...), crc32.ChecksumIEEE(chunk))
				m, err := png.Decode(bytes.NewReader(append(one, "\x00\x00\x00\x00IEND\xaeB`\x82"...)))
				if pictures++; err != nil || m.(*image.NRGBA).NRGBAAt(2, 1) != (color.NRGBA{uint8(60 * pictures), 70, 9, 248}) {
					t.Errorf("picture %d: %v", pictures, err)
				}
			}
		}
		at += 12 + size
	}
	if order != "IHDR acTL fcTL IDAT fcTL fdAT fcTL fdAT fcTL fdAT IEND " {
		t.Error(order)
	}
	if m, err := png.Decode(bytes.NewReader(data)); err != nil || m.(*image.NRGBA).NRGBAAt(2, 1) != (color.NRGBA{0, 70, 9, 248}) {
		t.Errorf("the first picture: %v", err)
	}
}
