package obj

import (
	"bufio"
	"fmt"
	"io"
	"math"
	"strconv"

	"bead/core/rig"
)

// library writes the materials of all groups as MTL (Alias|Wavefront's format, B1; roughness and metalness
// by the words Pr and Pm that its readers have in common, common practice), with the names that faces use.
func (b *Baker) library(w io.Writer) error {
	out := bufio.NewWriter(w)
	fmt.Fprintf(out, "# %s\n", oneLine(b.scene.Doc.Name))
	used := map[string]bool{}
	for i := range b.groups {
		for k := range b.groups[i].Things {
			t := &b.groups[i].Things[k]
			for n := range t.Model.Materials {
				f := t.Finish(n)
				if b.names[f] != "" {
					continue
				}
				unused := func(name string) string {
					for n, base := 2, name; used[name]; n++ {
						name = fmt.Sprintf("%s_%d", base, n)
					}
					used[name] = true
					return name
				}
				b.names[f] = unused(word(f.Name()))
				b.look(out, b.names[f], f)
				if f.Material.Under != "" { // faces have one colour in this format: those below have a material of their own
					below := f
					below.Colour = f.Material.Under
					b.below[f] = unused(b.names[f] + "_below")
					b.look(out, b.below[f], below)
				}
			}
		}
	}
	return out.Flush()
}

func (b *Baker) look(w io.Writer, name string, f rig.Finish) {
	m := f.Material
	fmt.Fprintf(w, "\nnewmtl %s\nKd", name)
	for i := range 3 { // as sRGB, as readers take it (common practice: the format does not say)
		v, _ := strconv.ParseUint(f.Shown()[1+2*i:3+2*i], 16, 8)
		fmt.Fprintf(w, " %.6g", float64(v)/255)
	}
	fmt.Fprintln(w)
	// The highlight of the older model: its breadth by the usual exponent, 2 / roughness^4 - 2.
	fmt.Fprintf(w, "Ks %.3g %.3g %.3g\nNs %.4g\n", 0.04+0.5*m.Metalness, 0.04+0.5*m.Metalness, 0.04+0.5*m.Metalness, min(2/math.Pow(max(m.Roughness, 0.05), 4)-2, 1000))
	fmt.Fprintf(w, "Pr %.6g\nPm %.6g\nd %.6g\nillum 2\n", m.Roughness, m.Metalness, m.Clear())
	m.Images.Each(func(field, asset string) {
		word := map[string]string{"colour": "map_Kd", "normal": "norm", "rough": "map_Pr"}[field]
		fmt.Fprintf(w, "%s -s %.9g %.9g 1 %s\n", word, f.Across, f.Along, b.files[asset])
	})
}

// word is a name without spaces, which end it in this format.
func word(name string) string {
	out := []rune(name)
	for i, r := range out {
		if r <= ' ' {
			out[i] = '_'
		}
	}
	return string(out)
}
