package obj

import (
	"bufio"
	"bytes"
	"fmt"
	"math"
	"strconv"
	"strings"

	"bead/core/look"
)

// Found is a material of an MTL file, under the name by which usemtl calls it, with the names of its
// images by the fields of look.Images.
type Found struct {
	look.Material
	Files map[string]string
}

// ReadMaterials reads MTL (Alias|Wavefront): Kd as sRGB, d or Tr, Pr and Pm, and else the roughness by the
// highlight's exponent Ns, as sqrt(sqrt(2 / (Ns + 2))); of the maps those of colour, normals and roughness.
// Any bytes give materials or an error with its line.
func ReadMaterials(data []byte) ([]Found, error) {
	if len(data) > MaxBytes {
		return nil, fmt.Errorf("the file has %d bytes: at most %d are read", len(data), MaxBytes)
	}
	var out []Found
	sc := bufio.NewScanner(bytes.NewReader(data))
	sc.Buffer(nil, 1<<20)
	rough := false
	for line := 1; sc.Scan(); line++ {
		f := strings.Fields(sc.Text())
		if len(f) == 0 || strings.HasPrefix(f[0], "#") {
			continue
		}
		if f[0] == "newmtl" {
			if len(out) == maxSurfaces {
				return nil, fmt.Errorf("line %d: more than %d materials: up to so many are read", line, maxSurfaces)
			}
			name := named(strings.Join(f[1:], " "), len(out))
			out, rough = append(out, Found{look.Material{Name: name, Colour: "#CCCCCC", Roughness: 0.8}, map[string]string{}}), false
			continue
		}
		if len(out) == 0 {
			continue
		}
		if err := out[len(out)-1].read(f, &rough); err != nil {
			return nil, fmt.Errorf("line %d: %w", line, err)
		}
	}
	if err := sc.Err(); err != nil {
		return nil, fmt.Errorf("not MTL: %w", err)
	}
	if len(out) == 0 {
		return nil, fmt.Errorf("the file holds no material: MTL with newmtl is accepted")
	}
	return out, nil
}

// read takes over what one line says of a material; rough tells whether its roughness is given as such.
func (m *Found) read(f []string, rough *bool) error {
	switch f[0] {
	case "Kd":
		v, err := numbers(f, 3)
		if err != nil {
			return err
		}
		if len(v) < 3 { // one number is a grey
			v = []float64{v[0], v[0], v[0]}
		}
		m.Colour = fmt.Sprintf("#%02X%02X%02X", byteOf(v[0]), byteOf(v[1]), byteOf(v[2]))
	case "d", "Tr", "Pr", "Pm", "Ns":
		v, err := numbers(f, 1)
		if err != nil {
			return err
		}
		share := min(max(v[0], 0), 1)
		switch {
		case f[0] == "d":
			m.Opacity = max(share, 0.01)
		case f[0] == "Tr":
			m.Opacity = max(1-share, 0.01)
		case f[0] == "Pr":
			m.Roughness, *rough = share, true
		case f[0] == "Pm":
			m.Metalness = share
		case !*rough:
			m.Roughness = math.Sqrt(math.Sqrt(2 / (max(v[0], 0) + 2)))
		}
	case "map_Kd", "norm", "map_Bump", "map_bump", "bump", "map_Pr":
		field := map[string]string{"map_Kd": "colour", "map_Pr": "rough"}[f[0]]
		if field == "" {
			field = "normal"
		}
		if len(f) > 1 {
			m.Files[field] = f[len(f)-1] // options come before it
		}
	}
	return nil
}

// numbers are the first numbers of a line, at least one and up to most.
func numbers(f []string, most int) ([]float64, error) {
	var out []float64
	for _, text := range f[1:min(len(f), most+1)] {
		x, err := strconv.ParseFloat(text, 64)
		if err != nil || math.IsNaN(x) || math.IsInf(x, 0) {
			return nil, fmt.Errorf("%q is no number", text)
		}
		out = append(out, x)
	}
	if len(out) == 0 {
		return nil, fmt.Errorf("%s says no number", f[0])
	}
	return out, nil
}

func byteOf(v float64) int { return int(math.Round(min(max(v, 0), 1) * 255)) }
