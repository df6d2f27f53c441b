package scene

import (
	"bead/core/geom"
	"bead/core/path"
)

// LineShape is straight.
type LineShape struct {
	From Vec3 `json:"from" form:"From;place"`
	To   Vec3 `json:"to" form:"To;place"`
}

func (s *LineShape) about() About {
	return About{Name: "Line", First: &LineShape{From: Vec3{0, 0.1, -2}, To: Vec3{0, 0.1, 2}}}
}

func (s *LineShape) spans(func(string)) ([]path.Span, bool) {
	return []path.Span{path.LineSpan(geom.FromArray(s.From), geom.FromArray(s.To))}, false
}
