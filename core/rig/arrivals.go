package rig

import (
	"encoding/binary"
	"hash/fnv"
	"sort"

	"bead/core/place"
	"bead/core/scene"
)

// arrivals is when each piece of a train sets out.
type arrivals struct {
	doc    *scene.Arrivals
	setOut []float64 // frame of each piece
}

// newArrivals orders the pieces; nil stays nil.
func newArrivals(a *scene.Arrivals, l place.Layout, length float64) *arrivals {
	if a == nil {
		return nil
	}
	out := &arrivals{a, make([]float64, l.Count)}
	// turn is the place of each piece in the order of setting out.
	turn := make([]int, l.Count)
	for i := range turn {
		turn[i] = i
	}
	if a.Order == scene.Scattered {
		// By a hash of seed and piece: when a piece is added or taken away the others keep their order among
		// themselves.
		sort.Slice(turn, func(i, j int) bool { return scatter(a.Seed, turn[i]) < scatter(a.Seed, turn[j]) })
	}
	for i := range out.setOut {
		k := float64(turn[i])
		switch a.Order {
		case scene.LastFirst:
			k = float64(l.Count - 1 - i)
		case scene.ByDistance:
			// Those with the longest way first, and a delay a pitch of difference.
			way := float64(i) * l.Pitch
			if a.End == scene.FromEnd {
				way = length - way
			}
			k = (length - way) / l.Pitch
		}
		out.setOut[i] = a.First + k*a.Delay
	}
	return out
}

func scatter(seed, piece int) uint64 {
	h := fnv.New64a()
	var b [16]byte
	binary.LittleEndian.PutUint64(b[:8], uint64(seed))
	binary.LittleEndian.PutUint64(b[8:], uint64(piece))
	h.Write(b[:])
	return h.Sum64()
}

// share is how much of its way a piece has gone at a frame, and whether it has set
// out.
func (a *arrivals) share(i int, frame float64) (share float64, out bool) {
	u := (frame - a.setOut[i]) / a.doc.Takes
	if u < 0 {
		return 0, false
	}
	u = min(u, 1)
	if a.doc.Ease == scene.Eased {
		// The cubic that begins and ends at rest (smoothstep, common practice).
		u *= u * (3 - 2*u)
	}
	return u, true
}

func (a *arrivals) end(length float64) float64 {
	if a.doc.End == scene.FromEnd {
		return length
	}
	return 0
}
