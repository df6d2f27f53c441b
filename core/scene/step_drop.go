package scene

// DropStep puts the path on the ground.
type DropStep struct {
	Clearance float64 `json:"clearance,omitempty" form:"Clearance;length;fallback=0"`
	Flat      bool    `json:"flat,omitempty" jsonschema:"description=Every point is laid on the ground; left out: the path is lowered as it is until it touches." form:"Lowered;switch;off=as it is;on=every point"`
}

func (s *DropStep) about() About {
	return About{Name: "Drop to ground", Text: "touch or lie on it", First: &DropStep{}}
}
