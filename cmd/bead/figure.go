package main

import (
	"cmp"
	"context"
	"fmt"
	"math"
	"path/filepath"
	"slices"
	"strconv"
	"strings"

	"bead/core/begin"
	"bead/core/figure"
	"bead/core/geom"
	"bead/core/look"
	"bead/core/part"
	"bead/core/rig"
	"bead/core/scene"
	"bead/formats"
)

// figureWish is how a figure's file goes along a way. What is left out is as it is found in the file.
type figureWish struct {
	Unit        string  // of the file: m, cm, mm or in; a glTF is in metres, of a BVH it is guessed by its size
	Forward, Up string  // axes such as +x
	Stride      float64 // how far a round goes, metres: wanted of a cycle that runs on the spot
	Length      float64 // of its way, metres; 0: eight strides a bend or four times its size, whichever is more
	Bends       int
	Count       int
	Ground      string
}

// figureUnits are what a unit of a figure's file may be, in metres.
var figureUnits = map[string]float64{"m": 1, "cm": 0.01, "mm": 0.001, "in": 0.0254}

// figureScene is a scene in which the figure of a file goes along an S, with the file and its materials inside.
// Errors say what would be accepted.
func figureScene(ctx context.Context, file string, data []byte, w figureWish) (*scene.Document, error) {
	f, err := formats.ReadFigure(ctx, file, data)
	if err != nil {
		return nil, err
	}
	found := rig.DescribeFigure(f, !strings.EqualFold(filepath.Ext(file), ".bvh"))
	size := 0.0
	for k := range 3 {
		size = max(size, found.Max[k]-found.Min[k])
	}
	scale, known := figureUnits[cmp.Or(w.Unit, found.Unit)]
	if !known {
		return nil, fmt.Errorf("%q is no unit of a file: m, cm, mm and in are accepted", w.Unit)
	}
	if w.Forward == "" {
		w.Forward = found.Forward
	}
	if w.Up == "" {
		w.Up = found.Up
	}
	gait, err := gaitAlong(f, w, scale)
	if err != nil {
		return nil, err
	}
	if w.Length == 0 {
		least := max(8*gait.Stride*float64(max(w.Bends, 1)), 4*size*scale)
		digits := math.Ceil(least * math.Pow(10, 1-math.Floor(math.Log10(least))))
		w.Length, err = strconv.ParseFloat(fmt.Sprintf("%ge%d", digits, int(math.Floor(math.Log10(least)))-1), 64) // a short number
		if err != nil {
			return nil, err
		}
	}
	asset := scene.AssetID(data)
	name := strings.TrimSuffix(filepath.Base(file), filepath.Ext(file))
	if r := []rune(name); len(r) > 55 {
		name = string(r[:55])
	}
	p := scene.Part{ID: "figure", Name: strings.ToUpper(name[:1]) + name[1:], Forward: part.Axis(w.Forward), Up: part.Axis(w.Up),
		Shape: scene.PartShape{Figure: &scene.FigureShape{Asset: asset, Scale: scale}}}
	axis := strings.IndexByte("xyz", w.Up[1])
	p.Pivot[axis] = short(gait.Floor() / scale)
	if w.Up[0] == '-' {
		p.Pivot[axis] = -p.Pivot[axis]
	}
	d, err := begin.Figure(begin.FigureSpec{Part: p, Stride: gait.Stride, Told: w.Stride > 0, Pace: short(gait.Stride / gait.Period),
		Length: w.Length, Bends: w.Bends, Count: max(w.Count, 1), Ground: w.Ground})
	if err != nil {
		return nil, err
	}
	d.Assets = append(d.Assets, scene.Asset{ID: asset, Name: filepath.Base(file), Data: data})
	if found.Skinned {
		err = dress(d, file, data)
	}
	return d, err
}

// short is a number of nine digits.
func short(v float64) float64 {
	out, err := strconv.ParseFloat(strconv.FormatFloat(v, 'g', 9, 64), 64)
	if err != nil {
		return v
	}
	return out
}

// gaitAlong is how a figure goes along the axes of a wish.
func gaitAlong(f *figure.Figure, w figureWish, scale float64) (*figure.Gait, error) {
	var axes [2]geom.Vec
	for k, a := range []string{w.Forward, w.Up} {
		v, err := part.Axis(a).Vec()
		if err != nil {
			return nil, err
		}
		axes[k] = v
	}
	if w.Forward[1] == w.Up[1] {
		return nil, fmt.Errorf("forward %s and up %s lie on one line: two axes are accepted", w.Forward, w.Up)
	}
	g := figure.NewGait(f, axes[0], axes[1], geom.Vec{}, scale, w.Stride)
	switch {
	case w.Stride == 0 && !g.Moves():
		return nil, fmt.Errorf("it runs on the spot: how far a round goes is wanted, metres, as its stride")
	case !(g.Stride > 0):
		return nil, fmt.Errorf("its keys go %.4g m back in a round along %s: a forward that is the other way is accepted", -g.Stride, w.Forward)
	}
	return g, nil
}

// dress gives a scene's only part the materials of its file, with their images.
func dress(d *scene.Document, file string, data []byte) error {
	found, err := formats.ReadMaterials(file, data)
	if err != nil {
		return err
	}
	for k, m := range found {
		id := fmt.Sprintf("material%d", k+1)
		for field, bytes := range m.Files {
			image := m.Name + " " + field
			if _, err := formats.ReadImage(image, bytes); err != nil {
				return fmt.Errorf("material %s: %w", m.Name, err)
			}
			asset := scene.Asset{ID: scene.AssetID(bytes), Name: image, Data: bytes}
			if !slices.ContainsFunc(d.Assets, func(a scene.Asset) bool { return a.ID == asset.ID }) {
				d.Assets = append(d.Assets, asset)
			}
			if m.Images == nil {
				m.Images = &look.Images{}
			}
			m.Images.Put(field, asset.ID)
		}
		if len(found) > 1 {
			d.Parts[0].Surfaces = append(d.Parts[0].Surfaces, scene.Surface{Name: m.Name, Material: id})
		} else {
			d.Parts[0].Material = id
		}
		m.ID = id
		d.Materials = append(d.Materials, m.Material)
	}
	return nil
}
