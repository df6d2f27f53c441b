package scene

import (
	"bead/core/path"
)

// Path is a named curve: a shape, and the steps that make of it what is used.
type Path struct {
	ID    string    `json:"id"`
	Name  string    `json:"name"`
	Shape PathShape `json:"shape"`
	Steps []Step    `json:"steps,omitempty" jsonschema:"description=Shaping steps in the order they are taken."`
	// Carrier is what it rides on, Rest where it stands in the carrier's space.
	Carrier string `json:"carrier,omitempty" jsonschema:"description=Id of the carrier that it rides on."`
	Rest    *Stand `json:"rest,omitempty" jsonschema:"description=Where the path stands in the carrier's space."`
	// ChordError is how far the drawn and baked polyline may stray from the path.
	ChordError float64 `json:"chordError,omitempty" jsonschema:"description=Metres by which the drawn and baked polyline may stray; 0 or left out: a 50000th of the length."`
}

// chordShare is the chord error, as a share of the length, where none is asked for.
const chordShare = 2e-5

// Chord is how far the drawn and baked polyline of a path of that length may stray.
func (p *Path) Chord(length float64) float64 {
	if p.ChordError > 0 {
		return max(p.ChordError, 1e-9*length)
	}
	return chordShare * length
}

// PathShape is exactly one of its fields.
type PathShape struct {
	Line      *LineShape      `json:"line,omitempty" jsonschema:"oneof_required=line"`
	Circle    *CircleShape    `json:"circle,omitempty" jsonschema:"oneof_required=circle"`
	Ellipse   *EllipseShape   `json:"ellipse,omitempty" jsonschema:"oneof_required=ellipse"`
	Slot      *SlotShape      `json:"slot,omitempty" jsonschema:"oneof_required=slot"`
	Rectangle *RectangleShape `json:"rectangle,omitempty" jsonschema:"oneof_required=rectangle"`
	Arch      *ArchShape      `json:"arch,omitempty" jsonschema:"oneof_required=arch"`
	Helix     *HelixShape     `json:"helix,omitempty" jsonschema:"oneof_required=helix"`
	Spline    *SplineShape    `json:"spline,omitempty" jsonschema:"oneof_required=spline"`
	BSpline   *BSplineShape   `json:"bspline,omitempty" jsonschema:"oneof_required=bspline"`
	Polyline  *PolylineShape  `json:"polyline,omitempty" jsonschema:"oneof_required=polyline"`
	Over      *OverShape      `json:"over,omitempty" jsonschema:"oneof_required=over"`
	Track     *TrackShape     `json:"track,omitempty" jsonschema:"oneof_required=track"`
	Wrap      *WrapShape      `json:"wrap,omitempty" jsonschema:"oneof_required=wrap"`
	Hang      *HangShape      `json:"hang,omitempty" jsonschema:"oneof_required=hang"`
}

// LineShape is straight.
type LineShape struct {
	From Vec3 `json:"from"`
	To   Vec3 `json:"to"`
}

// HangShape is a cable that hangs between two ends.
type HangShape struct {
	From   Vec3    `json:"from"`
	To     Vec3    `json:"to"`
	Length float64 `json:"length" jsonschema:"exclusiveMinimum=0,description=Metres; more than the ends are apart."`
	// The ends move as these carriers have moved since the first frame.
	FromOn string `json:"fromCarrier,omitempty" jsonschema:"description=Id of the carrier that holds its start; it moves as that has moved since the first frame."`
	ToOn   string `json:"toCarrier,omitempty" jsonschema:"description=Id of the carrier that holds its end."`
}

// PlaneName is the ready view that looks at a flat path square on.
type PlaneName string

// CircleShape is one turn round a centre.
type CircleShape struct {
	Centre Vec3      `json:"centre"`
	Radius float64   `json:"radius"`
	Plane  PlaneName `json:"plane,omitempty" jsonschema:"enum=side,enum=ahead,enum=above"`
}

// EllipseShape has one half axis along its plane's first direction and one
// across it.
type EllipseShape struct {
	Centre Vec3      `json:"centre"`
	Along  float64   `json:"along"`
	Across float64   `json:"across"`
	Plane  PlaneName `json:"plane,omitempty" jsonschema:"enum=side,enum=ahead,enum=above"`
}

// SlotShape is two half circles joined by straights of the given length.
type SlotShape struct {
	Centre Vec3      `json:"centre"`
	Length float64   `json:"length"`
	Radius float64   `json:"radius"`
	Plane  PlaneName `json:"plane,omitempty" jsonschema:"enum=side,enum=ahead,enum=above"`
}

// RectangleShape is a rectangle with rounded corners.
type RectangleShape struct {
	Centre Vec3      `json:"centre"`
	Length float64   `json:"length"`
	Height float64   `json:"height"`
	Radius float64   `json:"radius,omitempty" jsonschema:"description=Radius of the corners."`
	Plane  PlaneName `json:"plane,omitempty" jsonschema:"enum=side,enum=ahead,enum=above"`
}

// ArchShape stands on its base: a rounded arch with legs, or one arc.
type ArchShape struct {
	Base   Vec3      `json:"base" jsonschema:"description=The middle between its two feet."`
	Width  float64   `json:"width"`
	Height float64   `json:"height"`
	Arc    bool      `json:"arc,omitempty" jsonschema:"description=One circular arc from foot to foot instead of legs and corners."`
	Radius float64   `json:"radius,omitempty" jsonschema:"description=Radius of the corners; 0 or left out: half the width or as much as the height allows."`
	Open   OpenSide  `json:"open,omitempty" jsonschema:"enum=below,enum=above,enum=ahead,enum=behind,description=The side that stays open."`
	Plane  PlaneName `json:"plane,omitempty" jsonschema:"enum=side,enum=ahead,enum=above"`
}

// OpenSide is the side of an arch that stays open.
type OpenSide string

// The open sides: below is an arch that stands, ahead and behind lie on their side.
const (
	OpenBelow  OpenSide = "below"
	OpenAbove  OpenSide = "above"
	OpenAhead  OpenSide = "ahead"
	OpenBehind OpenSide = "behind"
)

// HelixShape winds about an axis through its base.
type HelixShape struct {
	Base      Vec3    `json:"base" jsonschema:"description=Where the axis begins."`
	Radius    float64 `json:"radius"`
	EndRadius float64 `json:"endRadius,omitempty" jsonschema:"description=Radius at the end; 0 or left out: the same as at the start."`
	Rise      float64 `json:"rise" jsonschema:"description=Metres along the axis a turn."`
	Turns     float64 `json:"turns"`
	Hand      string  `json:"hand,omitempty" jsonschema:"enum=right,enum=left"`
	Axis      string  `json:"axis,omitempty" jsonschema:"enum=up,enum=forward,enum=side"`
	Begin     float64 `json:"begin,omitempty" jsonschema:"description=Degrees about the axis at which it begins."`
	LeadIn    float64 `json:"leadIn,omitempty" jsonschema:"description=Metres of straight run before it and tangent to it."`
	LeadOut   float64 `json:"leadOut,omitempty" jsonschema:"description=Metres of straight run behind it and tangent to it."`
}

// SplineShape is cubic spans through points with handles.
type SplineShape struct {
	Closed bool    `json:"closed,omitempty"`
	Points []Point `json:"points" jsonschema:"minItems=2"`
}

// Point is a spline point; In and Out are its handles as offsets from it.
type Point struct {
	At      Vec3         `json:"at"`
	In      *Vec3        `json:"in,omitempty"`
	Out     *Vec3        `json:"out,omitempty"`
	Handles path.Handles `json:"handles,omitempty" jsonschema:"enum=smooth,enum=aligned,enum=mirrored,enum=free"`
}

// BSplineShape is the uniform cubic B-spline of control points.
type BSplineShape struct {
	Closed bool   `json:"closed,omitempty"`
	Points []Vec3 `json:"points" jsonschema:"minItems=2"`
}

// PolylineShape is straight from point to point, with rounded corners where asked.
type PolylineShape struct {
	Closed  bool      `json:"closed,omitempty"`
	Points  []Vec3    `json:"points" jsonschema:"minItems=2"`
	Fillet  float64   `json:"fillet,omitempty" jsonschema:"description=Radius of every corner in metres."`
	Fillets []float64 `json:"fillets,omitempty" jsonschema:"description=Radius of each corner in the order of the points; instead of fillet."`
}

// OverShape lies on a fixture.
type OverShape struct {
	Fixture   string  `json:"fixture" jsonschema:"description=Id of the fixture it lies on."`
	Clearance float64 `json:"clearance,omitempty" jsonschema:"description=Metres kept from its surface."`
	Closed    bool    `json:"closed,omitempty"`
	Points    []Vec3  `json:"points" jsonschema:"minItems=2,description=Places on or near the surface in the part's own axes."`
}

// TrackShape is the way that a piece of a rig, or a carrier, takes over the range.
type TrackShape struct {
	Rig     string `json:"rig,omitempty" jsonschema:"description=Id of the rig."`
	Carrier string `json:"carrier,omitempty" jsonschema:"description=Id of the carrier; instead of rig."`
	Piece   int    `json:"piece,omitempty" jsonschema:"minimum=1,description=Which piece from 1 on; 1 where left out."`
	Closed  bool   `json:"closed,omitempty"`
}

// Step is one shaping step: exactly one of its fields besides off.
type Step struct {
	Off       bool           `json:"off,omitempty" jsonschema:"description=Passed over."`
	Reverse   *ReverseStep   `json:"reverse,omitempty" jsonschema:"oneof_required=reverse"`
	StartAt   *StartAtStep   `json:"startAt,omitempty" jsonschema:"oneof_required=startAt"`
	Close     *CloseStep     `json:"close,omitempty" jsonschema:"oneof_required=close"`
	Open      *OpenStep      `json:"open,omitempty" jsonschema:"oneof_required=open"`
	Extend    *ExtendStep    `json:"extend,omitempty" jsonschema:"oneof_required=extend"`
	Trim      *TrimStep      `json:"trim,omitempty" jsonschema:"oneof_required=trim"`
	Join      *JoinStep      `json:"join,omitempty" jsonschema:"oneof_required=join"`
	Subdivide *SubdivideStep `json:"subdivide,omitempty" jsonschema:"oneof_required=subdivide"`
	Resample  *ResampleStep  `json:"resample,omitempty" jsonschema:"oneof_required=resample"`
	Simplify  *SimplifyStep  `json:"simplify,omitempty" jsonschema:"oneof_required=simplify"`
	Round     *RoundStep     `json:"round,omitempty" jsonschema:"oneof_required=round"`
	Smooth    *SmoothStep    `json:"smooth,omitempty" jsonschema:"oneof_required=smooth"`
	Offset    *OffsetStep    `json:"offset,omitempty" jsonschema:"oneof_required=offset"`
	Mirror    *MirrorStep    `json:"mirror,omitempty" jsonschema:"oneof_required=mirror"`
	Jitter    *JitterStep    `json:"jitter,omitempty" jsonschema:"oneof_required=jitter"`
	Drop      *DropStep      `json:"drop,omitempty" jsonschema:"oneof_required=drop"`
	Wave      *WaveStep      `json:"wave,omitempty" jsonschema:"oneof_required=wave"`
	Lag       *LagStep       `json:"lag,omitempty" jsonschema:"oneof_required=lag"`
}

// ReverseStep runs the path the other way.
type ReverseStep struct{}

// StartAtStep makes a closed path start at another distance.
type StartAtStep struct {
	Distance float64 `json:"distance"`
}

// CloseStep joins the end to the start.
type CloseStep struct {
	Smooth bool `json:"smooth,omitempty" jsonschema:"description=By a curve with both end tangents instead of a straight line."`
}

// OpenStep leaves a stretch of a closed path out at its end.
type OpenStep struct {
	Gap float64 `json:"gap,omitempty" jsonschema:"description=Metres left open before the start; 0: the seam is only parted."`
}

// ExtendStep lengthens an open path at either end.
type ExtendStep struct {
	Before float64 `json:"before,omitempty"`
	After  float64 `json:"after,omitempty"`
	Curved bool    `json:"curved,omitempty" jsonschema:"description=Going on with the curvature of the end instead of straight."`
}

// TrimStep keeps what lies between two distances.
type TrimStep struct {
	From float64 `json:"from"`
	To   float64 `json:"to" jsonschema:"description=0 or left out: the end."`
}

// JoinStep puts other paths behind this one.
type JoinStep struct {
	Paths  []string `json:"paths" jsonschema:"minItems=1,description=Ids of the paths in order."`
	Snap   float64  `json:"snap,omitempty" jsonschema:"description=Gaps up to this many metres are closed by moving the later path."`
	Smooth bool     `json:"smooth,omitempty" jsonschema:"description=Wider gaps are bridged by a curve instead of a straight line."`
	Keep   bool     `json:"keepDirection,omitempty" jsonschema:"description=Paths that run the wrong way are not turned."`
}

// SubdivideStep cuts each span into more; the shape stays.
type SubdivideStep struct {
	Parts int `json:"parts" jsonschema:"minimum=2,maximum=64"`
}

// ResampleStep puts points evenly along the path.
type ResampleStep struct {
	Count    int  `json:"count" jsonschema:"minimum=3,maximum=20000"`
	Straight bool `json:"straight,omitempty"`
}

// SimplifyStep rebuilds the path with fewer points.
type SimplifyStep struct {
	Tolerance float64 `json:"tolerance" jsonschema:"description=Metres by which the new path may stray from the old."`
}

// RoundStep rounds corners.
type RoundStep struct {
	Radius float64 `json:"radius"`
}

// SmoothStep evens out what is finer than a reach.
type SmoothStep struct {
	Reach float64 `json:"reach" jsonschema:"description=Metres."`
}

// OffsetStep makes a parallel path.
type OffsetStep struct {
	Distance float64   `json:"distance" jsonschema:"description=Metres; out of a flat loop or to the left of other paths; negative: into it or to the right."`
	Plane    PlaneName `json:"plane,omitempty" jsonschema:"enum=side,enum=ahead,enum=above,description=The plane it is moved in; left out: a flat path's own and the ground for others."`
}

// MirrorStep mirrors the path.
type MirrorStep struct {
	Axis string  `json:"axis" jsonschema:"enum=x,enum=y,enum=z"`
	At   float64 `json:"at,omitempty" jsonschema:"description=Where the mirror stands on that axis in metres."`
}

// JitterStep pushes the path about.
type JitterStep struct {
	Seed      int64          `json:"seed"`
	Amount    float64        `json:"amount"`
	Grain     float64        `json:"grain" jsonschema:"description=About the length of one waver in metres."`
	Direction path.Direction `json:"direction,omitempty" jsonschema:"enum=side,enum=up,enum=all"`
	Floor     bool           `json:"floor,omitempty" jsonschema:"description=Never below the ground."`
	Beats     int            `json:"beats,omitempty" jsonschema:"minimum=0,maximum=1000,description=How often it comes back over the frame range; 0 or left out: it stands still."`
}

// DropStep puts the path on the ground.
type DropStep struct {
	Clearance float64 `json:"clearance,omitempty"`
	Flat      bool    `json:"flat,omitempty" jsonschema:"description=Every point is laid on the ground; left out: the path is lowered as it is until it touches."`
}

func (p *Path) fillDefaults() {
	p.Shape.fillDefaults()
	for i := range p.Steps {
		if j := p.Steps[i].Jitter; j != nil && j.Direction == "" {
			j.Direction = path.JitterAll
		}
	}
}

func (s *PathShape) fillDefaults() {
	if s.Spline != nil {
		for k := range s.Spline.Points {
			p := &s.Spline.Points[k]
			if p.Handles != "" {
				continue
			}
			p.Handles = path.Smooth
			if p.In != nil || p.Out != nil {
				p.Handles = path.Aligned
			}
		}
	}
	if p := s.plane(); p != nil && *p == "" {
		*p = path.PlaneSide
	}
	if s.Arch != nil && s.Arch.Open == "" {
		s.Arch.Open = OpenBelow
	}
	if h := s.Helix; h != nil {
		if h.Hand == "" {
			h.Hand = "right"
		}
		if h.Axis == "" {
			h.Axis = "up"
		}
	}
	if s.Track != nil && s.Track.Piece == 0 {
		s.Track.Piece = 1
	}
}

// plane is the plane of a flat shape, nil for others.
func (s *PathShape) plane() *PlaneName {
	switch {
	case s.Circle != nil:
		return &s.Circle.Plane
	case s.Ellipse != nil:
		return &s.Ellipse.Plane
	case s.Slot != nil:
		return &s.Slot.Plane
	case s.Rectangle != nil:
		return &s.Rectangle.Plane
	case s.Arch != nil:
		return &s.Arch.Plane
	case s.Wrap != nil:
		return &s.Wrap.Plane
	}
	return nil
}

// Standalone reports whether the shape needs nothing else of the scene.
func (s *PathShape) Standalone() bool { return s.Over == nil && s.Track == nil }
