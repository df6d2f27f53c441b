package browser_test

import (
	"archive/zip"
	"bytes"
	"encoding/base64"
	"encoding/json"
	"fmt"
	"image"
	"image/png"
	"io"
	"math"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"
)

// From an empty scene: a tread in a material of its own with an image in its size and a tint, a camera that is
// aimed and looked through, a film; and the film, decoded again.
func TestLooksAndFilm(t *testing.T) {
	r := setup(t)
	p := r.page
	tread, err := os.ReadFile("../server/testdata/tread.json")
	r.ok(err)
	// Two shoes in twelve frames, so that a round of those loops.
	tread = bytes.Replace(tread, []byte(`"travel": 0`), []byte(`"travel": {"speed": 0.76}`), 1)
	r.ok(p.Open(r.prog.URL + "/scenes/" + r.bring(tread)))
	r.ok(p.BenchReady())

	// A material of the palette, then an image on it.
	r.ok(p.Click(`button[data-step=part]`))
	r.pick("Material", "Brass")
	r.storedIs(`s.doc.materials.length === 1 && s.doc.parts[0].material === s.doc.materials[0].id`)
	r.rack("Brass")
	r.ok(p.Type(r.labelled("Roughness"), "0.5"))
	r.storedIs(`s.doc.materials[0].roughness === 0.5`)
	var dots bytes.Buffer
	r.ok(png.Encode(&dots, image.NewGray(image.Rect(0, 0, 4, 4))))
	file := filepath.Join(t.TempDir(), "dots.png")
	r.ok(os.WriteFile(file, dots.Bytes(), 0o600))
	r.ok(p.Wait(`!!document.querySelector('summary')`))
	r.ok(p.Click(`summary`))
	r.ok(p.Choose(`[data-testid=image-colour]`, file))
	r.storedIs(`s.doc.materials[0].images.colour.length === 64`)
	r.set("One image is wide", "50")
	r.storedIs(`s.doc.materials[0].images.width === 0.05`)
	text := filepath.Join(t.TempDir(), "none.png")
	r.ok(os.WriteFile(text, []byte("no image"), 0o600))
	r.ok(p.Choose(`[data-testid=image-normal]`, text))
	r.ok(p.Wait(`document.body.textContent.includes('none.png is no image that is read: PNG and JPEG are accepted')`))

	// Every second shoe in another colour.
	r.rack("Tread")
	r.ok(p.Wait(`[...document.querySelectorAll('summary')].some((s) => s.textContent === 'Tints: none' && (s.click(), true))`))
	r.ok(p.ClickText("Add a tint"))
	r.ok(p.ClickText("every n-th"))
	r.storedIs(`s.doc.rigs[0].tints[0].every === 2`)

	r.add("Camera that looks as the view does")
	r.storedIs(`s.doc.cameras.length === 1`)
	r.pick("Looks at", "a place")
	r.ok(p.ClickText("Look through it"))
	r.ok(p.Wait(`!!document.querySelector('[data-testid=frame-lines]')`))
	r.ok(p.Type(r.labelled("Lens, mm"), "35"))
	// 2 atan(18 / 35) across, 2 atan(20.25 / 70) up; as an angle the lens may be typed as well: 18 / tan 30 degrees.
	r.ok(p.Wait(fmt.Sprintf(`document.querySelector(%q).value === '54.4' && document.querySelector(%q).value === '32.3'`, r.labelled("Takes in, across"), r.labelled("Takes in, up"))))
	r.ok(p.Type(r.labelled("Takes in, across"), "60"))
	r.storedIs(`Math.abs(s.doc.cameras[0].lens - 18 * Math.sqrt(3)) < 1e-9`)
	r.ok(p.Type(r.labelled("Lens, mm"), "35"))
	r.ok(p.ClickText("Leave Camera"))

	// A film of twelve pictures.
	r.ok(p.Draw())
	r.ok(p.ClickText("Film and stills"))
	r.ok(p.Type(r.labelled("Width"), "160"))
	r.ok(p.Type(r.labelled("Height"), "90"))
	r.ok(p.Type(r.labelled("To frame"), "12"))
	r.ok(p.ClickText("Make the film: 12 pictures, 0.5 s"))
	r.ok(p.Wait(`!!document.querySelector('[data-testid=film-done]')`))
	data, err := base64.StdEncoding.DecodeString(eval[string](r, blobOf(`document.querySelector('video').src`)))
	r.ok(err)
	film := filepath.Join(t.TempDir(), "film.webm")
	r.ok(os.WriteFile(film, data, 0o600))
	cmd := exec.Command("node", "tools/read-film.mjs", film)
	cmd.Dir, cmd.Stderr = "../web", os.Stderr
	out, err := cmd.Output()
	r.ok(err)
	var got struct {
		Pictures, Width, Height int
		Seconds                 float64
		Steps                   []int
	}
	r.ok(json.Unmarshal(out, &got))
	if got.Pictures != 12 || got.Width != 160 || got.Height != 90 || math.Abs(got.Seconds-0.5) > 0.003 {
		t.Errorf("the film: %s", out)
	}
	// Its first picture, decoded by the browser, is the still of that frame within what encoding loses; later ones
	// are others, and the last goes on to the first as each to the next.
	eval[bool](r, `(HTMLAnchorElement.prototype.click = function () { window.saved = this.href }, true)`)
	r.ok(p.ClickText("Still of frame 1"))
	r.ok(p.Wait(`!!window.saved`))
	off := eval[[]float64](r, `(async () => {
	  const look = (m) => { const d = new OffscreenCanvas(160, 90).getContext('2d'); d.drawImage(m, 0, 0, 160, 90); return d.getImageData(0, 0, 160, 90).data }
	  const apart = (a, b) => { let n = 0; for (let i = 0; i < a.length; i++) n += Math.abs(a[i] - b[i]); return n / a.length }
	  const still = look(await createImageBitmap(await (await fetch(window.saved)).blob()))
	  const v = document.createElement('video')
	  v.muted = true
	  v.src = document.querySelector('video').src
	  await new Promise((done) => { v.onloadeddata = done })
	  const at = async (k) => {
	    await new Promise((done) => { v.onseeked = done; v.currentTime = (k + 0.5) / 24 })
	    return look(await createImageBitmap(v))
	  }
	  const all = []
	  for (let k = 0; k < 12; k++) all.push(await at(k))
	  const steps = all.map((p, k) => apart(p, all[(k + 1) % 12]))
	  return [apart(still, all[0]), Math.max(...steps.slice(0, 11)), steps[11]]
	})()`)
	if off[0] > 2 || off[1] < 0.5 || off[2] > 1.5*off[1] {
		t.Errorf("of 255 the first picture is %.2f off the still; pictures differ by up to %.2f from the next, the last by %.2f from the first", off[0], off[1], off[2])
	}
}

// A mesh with its materials, as a newcomer brings it in: an OBJ, then its MTL; what was not chosen with it is said. Its
// two surfaces are told apart, and one is given another material. The view is saved as a picture by one key.
func TestMeshWithItsMaterials(t *testing.T) {
	r := setup(t)
	p := r.page
	r.empty()
	dir := t.TempDir()
	obj, mtl := filepath.Join(dir, "crate.obj"), filepath.Join(dir, "crate.mtl")
	r.ok(os.WriteFile(obj, []byte("v 0 0 0\nv 1 0 0\nv 1 1 0\nv 0 1 0\nv 0 0 1\nv 1 0 1\nv 1 1 1\nv 0 1 1\nusemtl lid\nf 4 8 7 3\nusemtl wall\nf 1 2 6 5\nf 5 6 7 8\nf 1 4 3 2\nf 2 3 7 6\nf 1 5 8 4\n"), 0o600))
	r.ok(os.WriteFile(mtl, []byte("newmtl lid\nKd 1 0 0\nPr 0.3\nnewmtl wall\nKd 0 0 1\nmap_Kd planks.png\n"), 0o600))
	r.ok(p.Choose(`[data-testid=import-mesh]`, obj))
	r.ok(p.Choose(`[data-testid=import-mtl]`, mtl))
	r.ok(p.Wait(`document.body.textContent.includes('Not chosen with it and left out: planks.png')`))
	// It is said in the view, over no field.
	r.ok(p.Wait(`(() => {
	  const a = document.querySelector('.MuiSnackbar-root').getBoundingClientRect(), b = document.querySelector('[data-testid=view]').getBoundingClientRect()
	  return a.width > 100 && a.left >= b.left && a.right <= b.right && a.top >= b.top && a.bottom <= b.bottom
	})()`))
	r.ok(p.ClickText("Stand it in the scene"))
	r.storedIs(`s.doc.materials.length === 2 && s.doc.materials[0].colour === '#FF0000' && s.doc.materials[0].roughness === 0.3 && s.doc.parts[1].surfaces.length === 2`)
	r.pick("Its surface lid", "wall")
	r.storedIs(`s.doc.parts[1].surfaces.find((x) => x.name === 'lid').material === s.doc.materials[1].id`)

	eval[bool](r, `(HTMLAnchorElement.prototype.click = function () { window.saved = [this.href, this.download] }, document.activeElement.blur(), true)`)
	r.ok(p.Draw())
	r.ok(p.Key("s"))
	r.ok(p.Wait(`window.saved?.[1].endsWith('frame 1.png')`))
	data, err := base64.StdEncoding.DecodeString(eval[string](r, blobOf(`window.saved[0]`)))
	r.ok(err)
	m, err := png.Decode(bytes.NewReader(data))
	r.ok(err)
	blue := 0
	for x := range m.Bounds().Dx() {
		for y := range m.Bounds().Dy() {
			if cr, cg, cb, _ := m.At(x, y).RGBA(); cb > 2*cr && cb > 2*cg {
				blue++
			}
		}
	}
	if m.Bounds().Dx() != 1280 || m.Bounds().Dy() != 720 || blue < 5000 {
		t.Errorf("the still is %v with %d blue pixels", m.Bounds(), blue)
	}
	r.noErrors()
}

func blobOf(address string) string {
	return fmt.Sprintf(`fetch(%s).then((r) => r.blob()).then((b) => new Promise((done) => { const f = new FileReader(); f.onload = () => done(f.result.split(',')[1]); f.readAsDataURL(b) }))`, address)
}

// A wheel's blur by its closed form: one box on a circle of radius r that turns by a right angle while the shutter
// is open covers each place on its way for the share of its own angle, 2 asin(w / 2 r), in that; the mean of
// 32 moments comes within one of them. Frame by frame nothing is blurred.
func TestBlur(t *testing.T) {
	r := setupWith(t, "rough")
	id := r.bring([]byte(`{"bead":2,"name":"blur","fps":24,"range":{"first":1,"last":4},
"paths":[{"id":"c","name":"c","shape":{"circle":{"centre":[0,0,0],"radius":1,"plane":"side"}}}],
"parts":[{"id":"b","name":"b","shape":{"box":{"side":0.2,"height":0.4,"length":0.5}}}],
"rigs":[{"id":"r","name":"r","path":"c","part":"b","facing":{"mode":"loopside"},"travel":{"turns":1},"train":{"seat":"pivot","spacing":{"mode":"set count","count":1}}}],
"cameras":[{"id":"k","name":"k","at":[40,0,0],"aim":{},"lens":400,"width":300,"height":300}]}`))
	shot := func(moments int) image.Image {
		t.Helper()
		wish := fmt.Sprintf(`{"kind":"png","camera":"k","first":2,"last":2,"moments":%d,"shutter":1,"background":"none","ground":false,"smooth":true}`, moments)
		r.ok(r.page.Open(r.prog.URL + "/scenes/" + id + "?film=" + strings.NewReplacer(`"`, "%22", "{", "%7B", "}", "%7D").Replace(wish)))
		r.ok(r.page.Wait(`!!(window.film?.blob || window.film?.error)`))
		if said := eval[string](r, `window.film.error ?? ''`); said != "" {
			t.Fatal(said)
		}
		data, err := base64.StdEncoding.DecodeString(eval[string](r, blobOf(`URL.createObjectURL(window.film.blob)`)))
		r.ok(err)
		m, err := png.Decode(unzipped(t, data))
		r.ok(err)
		return m
	}
	const moments = 32
	blurred := shot(moments)
	// 36 mm of picture at 400 mm from 40 m take in 3.6 m: 300 pixels.
	const pixels = 300 / 3.6
	alpha := func(m image.Image, angle, radius float64) float64 {
		x, y := 150+radius*pixels*math.Cos(angle), 150-radius*pixels*math.Sin(angle)
		_, _, _, a := m.At(int(x), int(y)).RGBA()
		return float64(a) / 0xffff
	}
	best, around := 0.0, 0.0 // the middle of the way, wherever the path begins
	const looks = 360
	for k := range looks {
		best = max(best, alpha(blurred, 2*math.Pi*float64(k)/looks, 1))
		around += alpha(blurred, 2*math.Pi*float64(k)/looks, 1) / looks
	}
	want := 2 * math.Asin(0.25) / (math.Pi / 2)
	if math.Abs(best-want) > 1.0/moments+0.01 {
		t.Errorf("the middle of its way is covered for %.4f of the time, want %.4f", best, want)
	}
	// All round, whatever the moments: its own share of the circle.
	if own := 2 * math.Asin(0.25) / (2 * math.Pi); math.Abs(around-own) > 0.006 {
		t.Errorf("round the circle it covers %.4f, want %.4f", around, own)
	}
	sharp := shot(1)
	most := 0.0
	for k := range looks {
		most = max(most, alpha(sharp, 2*math.Pi*float64(k)/looks, 1))
	}
	if most < 0.999 {
		t.Errorf("a sharp picture covers at most %.3f", most)
	}
}

// unzipped is the one file of an archive.
func unzipped(t *testing.T, data []byte) *bytes.Reader {
	t.Helper()
	z, err := zip.NewReader(bytes.NewReader(data), int64(len(data)))
	if err != nil || len(z.File) != 1 {
		t.Fatal(err)
	}
	f, err := z.File[0].Open()
	if err != nil {
		t.Fatal(err)
	}
	defer f.Close()
	out, err := io.ReadAll(f)
	if err != nil {
		t.Fatal(err)
	}
	return bytes.NewReader(out)
}
