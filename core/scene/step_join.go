package scene

// JoinStep puts other paths behind this one.
type JoinStep struct {
	Paths  []string `json:"paths" jsonschema:"minItems=1,description=Ids of the paths in order." ref:"path;entry;other"`
	Snap   float64  `json:"snap,omitempty" jsonschema:"description=Gaps up to this many metres are closed by moving the later path." form:"Snap gaps up to;length;min=0;fallback=0"`
	Smooth bool     `json:"smooth,omitempty" jsonschema:"description=Wider gaps are bridged by a curve instead of a straight line." form:"Bridge gaps with;switch;off=straights;on=curves"`
	Keep   bool     `json:"keepDirection,omitempty" jsonschema:"description=Paths that run the wrong way are not turned." form:"Paths that run the wrong way;switch;off=turn round;on=keep"`
}

func (s *JoinStep) about() About {
	return About{Name: "Join", Text: "other paths behind this one", First: &JoinStep{Paths: []string{}}}
}

func (s *JoinStep) check(c *checker, at string) {
	if len(s.Paths) == 0 || len(s.Paths) > maxSteps {
		c.say(at+".paths", "%d paths are not accepted: from 1 to %d are", len(s.Paths), maxSteps)
	}
}
