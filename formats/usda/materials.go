package usda

import (
	"fmt"
	"strconv"

	"bead/core/geom"
	"bead/core/rig"
)

// Materials leave as UsdPreviewSurface networks ("UsdPreviewSurface Specification", version 2.6): a shader,
// and for each image a UsdUVTexture that reads st through a UsdTransform2d, which gives it its size.

// looks writes the materials of what stands by itself within one scope.
func (b *Baker) looks(w *writer) {
	w.open("Scope", "Materials", "")
	for i := range b.groups {
		for k := range b.groups[i].Things {
			t := &b.groups[i].Things[k]
			if g := &b.groups[i]; !g.Surfaces && !b.own(g) && b.Density == 0 && t.Colour == "" {
				continue // its part brings it along
			}
			for n := range t.Model.Materials {
				if f := t.Finish(n); w.finishes[f] == "" {
					b.look(w, f, "/World/Materials/")
				}
			}
		}
	}
	w.close()
}

// look writes a material below where it stands.
func (b *Baker) look(w *writer, f rig.Finish, below string) {
	id := w.open("Material", f.Name(), f.Name())
	at := below + id
	w.finishes[f] = at
	m := f.Material
	w.line("token outputs:surface.connect = <" + at + "/Surface.outputs:surface>")
	images := map[string]string{}
	m.Images.Each(func(field, asset string) { images[field] = b.Files[asset] })
	w.shader(at, f, images)
	if m.Under != "" {
		w.open("Shader", "vertices", "")
		w.line(`uniform token info:id = "UsdPrimvarReader_float3"`)
		w.line(`string inputs:varname = "displayColor"`)
		w.line("float3 outputs:result")
		w.close()
	}
	if len(images) > 0 {
		w.open("Shader", "st", "")
		w.line(`uniform token info:id = "UsdPrimvarReader_float2"`)
		w.line(`string inputs:varname = "st"`)
		w.line("float2 outputs:result")
		w.close()
		w.open("Shader", "size", "")
		w.line(`uniform token info:id = "UsdTransform2d"`)
		w.line("float2 inputs:in.connect = <" + at + "/st.outputs:result>")
		w.line("float2 inputs:scale = (" + number(f.Across) + ", " + number(f.Along) + ")")
		w.line("float2 outputs:result")
		w.close()
	}
	for _, field := range []string{"colour", "normal", "rough"} {
		if file := images[field]; file != "" {
			w.image(at, field, file, f)
		}
	}
	w.close()
}

// shader writes the shader of the material at, which takes what its images hold and else its numbers.
func (w *writer) shader(at string, f rig.Finish, images map[string]string) {
	m, c := f.Material, f.Light()
	w.open("Shader", "Surface", "")
	w.line(`uniform token info:id = "UsdPreviewSurface"`)
	switch {
	case m.Under != "": // its vertices have their colours
		w.line("color3f inputs:diffuseColor.connect = <" + at + "/vertices.outputs:result>")
	case images["colour"] != "":
		w.line("color3f inputs:diffuseColor.connect = <" + at + "/colour.outputs:rgb>")
	default:
		w.line(fmt.Sprintf("color3f inputs:diffuseColor = (%.6g, %.6g, %.6g)", c[0], c[1], c[2]))
	}
	if images["rough"] != "" {
		w.line("float inputs:roughness.connect = <" + at + "/rough.outputs:g>")
		w.line("float inputs:metallic.connect = <" + at + "/rough.outputs:b>")
	} else {
		w.line("float inputs:roughness = " + number(m.Roughness))
		w.line("float inputs:metallic = " + number(m.Metalness))
	}
	if images["normal"] != "" {
		w.line("normal3f inputs:normal.connect = <" + at + "/normal.outputs:rgb>")
	}
	w.line("float inputs:opacity = " + number(m.Clear()))
	w.line("token outputs:surface")
	w.close()
}

// image writes the shader that reads an image of the material at.
func (w *writer) image(at, field, file string, f rig.Finish) {
	m, c := f.Material, f.Light()
	w.open("Shader", field, "")
	w.line(`uniform token info:id = "UsdUVTexture"`)
	w.line("asset inputs:file = @" + file + "@")
	w.line("float2 inputs:st.connect = <" + at + "/size.outputs:result>")
	w.line(`token inputs:wrapS = "repeat"`)
	w.line(`token inputs:wrapT = "repeat"`)
	space := "raw"
	switch field {
	case "colour":
		space = "sRGB"
		w.line(fmt.Sprintf("float4 inputs:scale = (%.6g, %.6g, %.6g, 1)", c[0], c[1], c[2]))
	case "normal": // from 0..1 to -1..1
		w.line("float4 inputs:scale = (2, 2, 2, 1)")
		w.line("float4 inputs:bias = (-1, -1, -1, 0)")
	default:
		metal := m.Metalness
		if metal == 0 {
			metal = 1
		}
		w.line("float4 inputs:scale = (1, " + number(m.Roughness) + ", " + number(metal) + ", 1)")
	}
	w.line(`token inputs:sourceColorSpace = "` + space + `"`)
	for _, out := range []string{"float3 outputs:rgb", "float outputs:g", "float outputs:b"} {
		w.line(out)
	}
	w.close()
}

// bound writes which materials a mesh is of: its own, or those of its subsets.
func (w *writer) bound(t *rig.Thing, m *geom.Mesh) {
	f := t.Finish(0)
	if shades := f.Shades(m, t.Model.Up()); shades != nil {
		w.indent()
		w.WriteString("color3f[] primvars:displayColor = ")
		w.list(shades, 3)
		w.WriteString(" (\n")
		w.line(`    interpolation = "vertex"`)
		w.line(")")
	} else {
		c := f.Light()
		w.line(fmt.Sprintf("color3f[] primvars:displayColor = [(%.6g, %.6g, %.6g)]", c[0], c[1], c[2]))
	}
	w.line("rel material:binding = <" + w.finishes[f] + ">")
	if len(m.Groups) < 2 {
		return
	}
	w.line(`uniform token subsetFamily:materialBind:familyType = "partition"`)
	for k, g := range m.Groups {
		w.openWith("GeomSubset", g.Name, g.Name, "    prepend apiSchemas = [\"MaterialBindingAPI\"]\n")
		w.line(`uniform token elementType = "face"`)
		w.line(`uniform token familyName = "materialBind"`)
		w.indent()
		w.WriteString("int[] indices = [")
		for i := range g.Count / 3 {
			if i > 0 {
				w.WriteString(", ")
			}
			w.WriteString(strconv.Itoa(g.First/3 + i))
		}
		w.WriteString("]\n")
		w.line("rel material:binding = <" + w.finishes[t.Finish(k)] + ">")
		w.close()
	}
}

func number(v float64) string { return strconv.FormatFloat(v, 'g', 6, 64) }

// bindingAPI is what a prim says that has a material.
const bindingAPI = "    prepend apiSchemas = [\"MaterialBindingAPI\"]\n"
