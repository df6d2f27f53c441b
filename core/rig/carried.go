package rig

import (
	"bead/core/path"
	"bead/core/place"
)

// carried is what kinds of one rigid thing have in common.
type carried struct{ *Rig }

func (x carried) nature() Nature         { return Nature{} }
func (x carried) prepare(*compiler) bool { return true }
func (x carried) form(float64) form      { return form{} }

func (x carried) layOut(curve *path.Curve) (place.Layout, string, error) {
	l, err := x.spaced(curve)
	return l, x.rig.Kind(), err
}

func (x carried) on(curve *path.Curve) place.Layout { return x.spreadOn(curve) }
