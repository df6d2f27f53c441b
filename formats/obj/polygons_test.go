package obj

import (
	"bufio"
	"bytes"
	"context"
	"strings"
	"testing"

	"bead/core/geom"
	"bead/core/part"
)

// Quads of a file and of parts stay quads when they are covered and written, triangles triangles; a face that is
// not convex was cut when it was read. What is written covers what is drawn.
func TestFacesKeepTheirCorners(t *testing.T) {
	text := `v 0 0 0
v 1 0 0
v 1 1 0
v 0 1 0
v 0 0 1
v 1 0 1
v 1 1 1
v 0.5 0.3 1
v 0 1 1
v 2 0.5 0.5
f 4 3 2 1
f 1 2 6 5
f 2 3 10
f 3 7 10
f 7 6 10
f 6 2 10
f 3 4 9 7
f 4 1 5 9
f 5 6 7 8 9
`
	m, err := ReadMesh(context.Background(), []byte(text))
	if err != nil {
		t.Fatal(err)
	}
	if got, want := sizes(part.Cover(m.Drawn())), "44333344333"; got != want {
		t.Errorf("faces of %s corners, want %s", got, want)
	}
	box, err := part.Box(1, 2, 3)
	if err != nil {
		t.Fatal(err)
	}
	if got := sizes(part.Cover(box)); got != "444444" {
		t.Errorf("a box has faces of %s corners", got)
	}
	for name, make := range map[string]func() (*geom.Mesh, error){
		"post": func() (*geom.Mesh, error) { return part.Post(0.1, 0.1, 1) },
		"strands": func() (*geom.Mesh, error) {
			return part.Strands(part.StrandsSize{Length: 1, Count: 3, Radius: 0.02, Lay: 0.3})
		},
	} {
		m, err := make()
		if err != nil {
			t.Fatal(err)
		}
		// What is written covers what is drawn: as many triangles.
		n := 0
		for _, c := range sizes(m) {
			n += int(c-'0') - 2
		}
		if n != len(m.Indices)/3 {
			t.Errorf("%s: faces for %d triangles of %d", name, n, len(m.Indices)/3)
		}
	}
}

// sizes are the numbers of corners of the faces that are written.
func sizes(m *geom.Mesh) string {
	var out bytes.Buffer
	w := bufio.NewWriter(&out)
	(&object{w: w}).faces(m, m.Indices)
	w.Flush()
	var got strings.Builder
	for _, line := range strings.Split(strings.TrimSpace(out.String()), "\n") {
		got.WriteByte(byte('0' + len(strings.Fields(line)) - 1))
	}
	return got.String()
}
