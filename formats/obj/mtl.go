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
		m := &out[len(out)-1]
		var v [3]float64
		given := 0
		numbers := func(n int) error {
			for given = 0; given < n && given+1 < len(f); given++ {
				x, err := strconv.ParseFloat(f[given+1], 64)
				if err != nil || math.IsNaN(x) || math.IsInf(x, 0) {
					return fmt.Errorf("line %d: %q is no number", line, f[given+1])
				}
				v[given] = x
			}
			if given == 0 {
				return fmt.Errorf("line %d: %s says no number", line, f[0])
			}
			return nil
		}
		share := func() float64 { return min(max(v[0], 0), 1) }
		var err error
		switch f[0] {
		case "Kd":
			if err = numbers(3); err == nil {
				if given < 3 { // one number is a grey
					v[1], v[2] = v[0], v[0]
				}
				m.Colour = fmt.Sprintf("#%02X%02X%02X", byteOf(v[0]), byteOf(v[1]), byteOf(v[2]))
			}
		case "d", "Tr":
			if err = numbers(1); err == nil {
				if m.Opacity = max(share(), 0.01); f[0] == "Tr" {
					m.Opacity = max(1-share(), 0.01)
				}
			}
		case "Pr":
			if err = numbers(1); err == nil {
				m.Roughness, rough = share(), true
			}
		case "Pm":
			if err = numbers(1); err == nil {
				m.Metalness = share()
			}
		case "Ns":
			if err = numbers(1); err == nil && !rough {
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
		if err != nil {
			return nil, err
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

func byteOf(v float64) int { return int(math.Round(min(max(v, 0), 1) * 255)) }
