package server_test

import (
	"bytes"
	"encoding/binary"
	"encoding/json"
	"io"
	"math"
	"net/http"
	"testing"

	"bead/core/rig"
	"bead/core/scene"
	"bead/demo"
)

// Pictures between frames are those of the core, one behind the other; what is no frame is refused.
func TestPictures(t *testing.T) {
	base := start(t, nil).ts.URL
	d, err := demo.Scene("crawler")
	if err != nil {
		t.Fatal(err)
	}
	s, err := rig.Compile(d)
	if err != nil {
		t.Fatal(err)
	}
	ask := func(frames ...float64) (int, []byte) {
		t.Helper()
		body, err := json.Marshal(map[string]any{"doc": d, "frames": frames})
		if err != nil {
			t.Fatal(err)
		}
		res, err := http.Post(base+"/api/pictures", "application/json", bytes.NewReader(body))
		if err != nil {
			t.Fatal(err)
		}
		defer res.Body.Close()
		data, err := io.ReadAll(res.Body)
		if err != nil {
			t.Fatal(err)
		}
		return res.StatusCode, data
	}
	frames := []float64{1, 1.25, 7.5, 400}
	code, data := ask(frames...)
	if code != http.StatusOK {
		t.Fatalf("%d %s", code, data)
	}
	var p rig.Picture
	for _, f := range frames {
		n := int(binary.LittleEndian.Uint32(data))
		m := data[8 : 8+n]
		data = data[8+n:]
		if got := int32(binary.LittleEndian.Uint32(m[12:])); got != int32(math.Floor(f)) {
			t.Errorf("frame %g is told as %d", f, got)
		}
		s.At(&p, f)
		want := make([]byte, 0, 40)
		for _, x := range p.Rigs[0].Transforms[:rig.Stride] {
			want = binary.LittleEndian.AppendUint32(want, math.Float32bits(x))
		}
		if !bytes.Contains(m, want) {
			t.Errorf("frame %g holds another place of the first piece", f)
		}
	}
	if len(data) != 0 {
		t.Errorf("%d bytes more", len(data))
	}
	if code, _ := ask(); code != http.StatusBadRequest {
		t.Errorf("no frames: %d", code)
	}
	if code, _ := ask(scene.FarthestFrame + 1); code != http.StatusBadRequest {
		t.Errorf("a frame too far off: %d", code)
	}
	if code, _ := ask(make([]float64, 3000)...); code != http.StatusBadRequest {
		t.Errorf("3000 frames: %d", code)
	}
}

// Images are kept, given out as they came, and refused where they are none.
func TestImages(t *testing.T) {
	base := start(t, nil).ts.URL
	post := func(address string, data []byte, out any) int {
		t.Helper()
		res, err := http.Post(base+address, "application/octet-stream", bytes.NewReader(data))
		if err != nil {
			t.Fatal(err)
		}
		defer res.Body.Close()
		if err := json.NewDecoder(res.Body).Decode(out); err != nil {
			t.Fatal(err)
		}
		return res.StatusCode
	}
	var read struct {
		Asset         string
		Width, Height int
	}
	// A GIF's header is an image, but none that is read; one pixel of PNG is.
	pixel := []byte("\x89PNG\r\n\x1a\n\x00\x00\x00\rIHDR\x00\x00\x00\x01\x00\x00\x00\x01\x08\x00\x00\x00\x00:~\x9bU\x00\x00\x00\nIDATx\x9cc`\x00\x00\x00\x02\x00\x01H\xaf\xa4q\x00\x00\x00\x00IEND\xaeB`\x82")
	if code := post("/api/images?file=dot.png", pixel, &read); code != http.StatusCreated || read.Asset != scene.AssetID(pixel) || read.Width != 1 {
		t.Fatalf("%d %+v", code, read)
	}
	res, err := http.Get(base + "/api/images/" + read.Asset)
	if err != nil {
		t.Fatal(err)
	}
	defer res.Body.Close()
	if data, _ := io.ReadAll(res.Body); !bytes.Equal(data, pixel) || res.Header.Get("Content-Type") != "image/png" {
		t.Errorf("%d bytes of %s", len(data), res.Header.Get("Content-Type"))
	}
	var problem struct{ Detail string }
	if code := post("/api/images?file=a.gif", []byte("GIF89a"), &problem); code != http.StatusUnprocessableEntity {
		t.Errorf("%d %s", code, problem.Detail)
	}
	if res, err := http.Get(base + "/api/images/" + scene.AssetID([]byte("x"))); err != nil || res.StatusCode != http.StatusNotFound {
		t.Errorf("%v %v", res.Status, err)
	}
	var found []struct {
		Material struct{ Name, Colour string }
		Wants    map[string]string
	}
	if code := post("/api/materials/read?file=a.mtl", []byte("newmtl wood\nKd 1 0 0\nmap_Kd w.png\n"), &found); code != http.StatusOK || len(found) != 1 || found[0].Material.Colour != "#FF0000" || found[0].Wants["colour"] != "w.png" {
		t.Errorf("%d %+v", code, found)
	}
}
