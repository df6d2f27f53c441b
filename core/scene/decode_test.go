package scene

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"strings"
	"testing"
)

// Documents that hold endless values are refused by their number, where they stand; addresses
// name fields with odd names too.
func TestDecodeLimits(t *testing.T) {
	long := `{"bead":1,"zz":[` + strings.Repeat("1,", maxValues) + `1]}`
	if _, err := Decode([]byte(long)); err == nil || !strings.Contains(err.Error(), "more than 1000000 values") {
		t.Errorf("%d values: %v", maxValues+3, err)
	}
	gone, cancel := context.WithCancel(context.Background())
	cancel()
	if _, err := DecodeContext(gone, []byte(long)); !errors.Is(err, context.Canceled) {
		t.Errorf("reading for nobody: %v", err)
	}
	_, err := Decode([]byte(`{"bead":1,"":{"a":[1,{"b":2,"b":3}]},"paths":[{"id":"w","":1}]}`))
	var faults Faults
	if !errors.As(err, &faults) {
		t.Fatal(err)
	}
	found := map[string]bool{}
	for _, f := range faults {
		found[f.Address] = true
	}
	for _, at := range []string{"", "a[1].b", "paths[0].", "paths[0].name"} {
		if !found[at] {
			t.Errorf("no fault at %q: %v", at, faults)
		}
	}
}

// looks is a context that ends when it has been asked so many times whether it has.
type looks struct {
	context.Context
	left int
}

func (l *looks) Err() error {
	if l.left--; l.left < 0 {
		return context.Canceled
	}
	return nil
}

// A long document is given up wherever it is that nobody waits any more: while its text is looked
// through, held against the form of documents, and read.
func TestReadingIsGivenUp(t *testing.T) {
	d := Document{Bead: Version, Name: "Long", FPS: 24, Range: Range{First: 1, Last: 2}, Parts: []Part{}, Rigs: []Rig{}}
	for i := range 400 {
		name := fmt.Sprint("p", i)
		points := make([]Vec3, 60)
		for k := range points {
			points[k] = Vec3{float64(k), float64(i), 0}
		}
		d.Paths = append(d.Paths, Path{ID: name, Name: name, Shape: PathShape{Polyline: &PolylineShape{Points: points}}})
	}
	text, err := json.Marshal(d)
	if err != nil {
		t.Fatal(err)
	}
	most := 1 << 20
	patient := looks{context.Background(), most}
	read, err := DecodeContext(&patient, text)
	if err != nil || len(read.Paths) != 400 || read.Paths[399].Shape.Polyline.Points[59] != (Vec3{59, 399, 0}) {
		t.Fatalf("%v", err)
	}
	asked := most - patient.left
	if asked < 400+len(text)/200_000 {
		t.Errorf("asked %d times whether anybody waits: once a path and more often was expected", asked)
	}
	for n := 0; n < asked; n += asked / 12 {
		if _, err := DecodeContext(&looks{context.Background(), n}, text); !errors.Is(err, context.Canceled) {
			t.Fatalf("after %d looks of %d: %v", n, asked, err)
		}
	}
}
