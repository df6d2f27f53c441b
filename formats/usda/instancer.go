package usda

import (
	"strconv"

	"bead/core/rig"
)

// instanced tells of groups that are written as one PointInstancer (UsdGeom): for each piece, the
// prototype, the place, the rotation and the scale, as lists.
func (b *Baker) instanced(g *rig.Group) bool {
	return b.Instanced && !g.Alone && !g.Surfaces && !g.Jointed && !b.Single
}

// instancer writes a group as an instancer. A piece that is not there is listed as invisible.
func (b *Baker) instancer(w *writer, i int) {
	g, tracks := &b.groups[i], b.rigid[i]
	w.open("PointInstancer", "pieces", "")
	list, numbers := b.prototypes(w, g)
	w.row("rel prototypes", len(list), func(k int) { w.WriteString(list[k]) })
	w.row("int[] protoIndices", len(numbers), func(k int) { w.WriteString(strconv.Itoa(numbers[k])) })
	w.row("int64[] ids", len(numbers), func(k int) { w.WriteString(strconv.Itoa(k)) })
	at := func(f, k, i int) float32 { return tracks[k][f*rig.Stride+i] }
	each := func(what string, from, n int, of func(f, k int)) {
		b.value(w, what, b.alike(tracks, from, n), func(f int) {
			w.WriteString("[")
			for k := range tracks {
				if k > 0 {
					w.WriteString(", ")
				}
				of(f, k)
			}
			w.WriteString("]")
		})
	}
	each("point3f[] positions", 0, 3, func(f, k int) { w.tuple(at(f, k, 0), at(f, k, 1), at(f, k, 2)) })
	turn := func(f, k int) { w.tuple(at(f, k, 6), at(f, k, 3), at(f, k, 4), at(f, k, 5)) }
	each("quath[] orientations", 3, 4, turn) // half floats, for readers that know no others
	each("quatf[] orientationsf", 3, 4, turn)
	each("float3[] scales", 7, 3, func(f, k int) {
		x := at(f, k, 7)
		if x == 0 {
			x = 1
		}
		w.tuple(x, x, x)
	})
	b.invisible(w, tracks)
	w.close()
}

// alike reports whether some numbers of all tracks stay the same.
func (b *Baker) alike(tracks []track, from, n int) bool {
	for _, t := range tracks {
		for f := 1; f < b.Frames; f++ {
			for i := from; i < from+n; i++ {
				if t[f*rig.Stride+i] != t[i] {
					return false
				}
			}
		}
	}
	return true
}

// row writes an attribute that is a list.
func (w *writer) row(what string, n int, of func(k int)) {
	w.once(what, func() {
		w.WriteString("[")
		for k := range n {
			if k > 0 {
				w.WriteString(", ")
			}
			of(k)
		}
		w.WriteString("]")
	})
}

// prototypes writes what a group's pieces are made of and returns their addresses and which each piece is made
// of. A tint is a prototype of its own, since instances share all that they are made of.
func (b *Baker) prototypes(w *writer, g *rig.Group) (list []string, numbers []int) {
	known := map[string]int{}
	numbers = make([]int, len(g.Things))
	type looks struct{ part, colour string }
	tints := map[looks]string{}
	w.open("Scope", "Prototypes", "")
	for k := range g.Things {
		t := &g.Things[k]
		key := looks{b.models[t.Model], t.Colour}
		if tints[key] == "" {
			name := key.part
			if t.Colour != "" {
				name += "_" + t.Colour[1:]
			}
			meta := "    prepend references = </World/Parts/" + key.part + ">\n"
			if t.Colour != "" {
				meta += bindingAPI
			}
			tints[key] = w.openWith("Xform", name, "", meta)
			if t.Colour != "" {
				w.line("rel material:binding = <" + w.finishes[t.Finish(0)] + "> (bindMaterialAs = \"strongerThanDescendants\")")
			}
			w.close()
		}
		name := "<Prototypes/" + tints[key] + ">"
		if _, is := known[name]; !is {
			known[name] = len(list)
			list = append(list, name)
		}
		numbers[k] = known[name]
	}
	w.close()
	return list, numbers
}

// invisible lists the pieces that are not there, frame by frame, where there are any.
func (b *Baker) invisible(w *writer, tracks []track) {
	gone := func(f int) (out []int) {
		for k := range tracks {
			if tracks[k][f*rig.Stride+7] == 0 {
				out = append(out, k)
			}
		}
		return out
	}
	some := false
	for f := range b.Frames {
		some = some || len(gone(f)) > 0
	}
	if !some {
		return
	}
	b.value(w, "int64[] invisibleIds", false, func(f int) {
		w.WriteString("[")
		for n, k := range gone(f) {
			if n > 0 {
				w.WriteString(", ")
			}
			w.WriteString(strconv.Itoa(k))
		}
		w.WriteString("]")
	})
}
