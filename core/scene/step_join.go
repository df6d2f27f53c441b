package scene

import (
	"fmt"
)

// JoinStep puts other paths behind this one.
type JoinStep struct {
	Paths  []string `json:"paths" jsonschema:"minItems=1,description=Ids of the paths in order." ref:"path;entry"`
	Snap   float64  `json:"snap,omitempty" jsonschema:"description=Gaps up to this many metres are closed by moving the later path." form:"Snap gaps up to;length;min=0;fallback=0"`
	Smooth bool     `json:"smooth,omitempty" jsonschema:"description=Wider gaps are bridged by a curve instead of a straight line." form:"Bridge gaps with;switch;off=straights;on=curves"`
	Keep   bool     `json:"keepDirection,omitempty" jsonschema:"description=Paths that run the wrong way are not turned." form:"Paths that run the wrong way;switch;off=turn round;on=keep"`
}

func (s *JoinStep) about() About {
	return About{Name: "Join", Text: "other paths behind this one", First: &JoinStep{Paths: []string{}}}
}

func (s *JoinStep) check(c *checker, at string, known *names) {
	if len(s.Paths) == 0 || len(s.Paths) > maxSteps {
		c.say(at+".paths", "%d paths are not accepted: from 1 to %d are", len(s.Paths), maxSteps)
	}
	for i, id := range s.Paths {
		pa := fmt.Sprintf("%s.paths[%d]", at, i)
		if !known.paths[id] {
			c.say(pa, "%q is no path of this scene", id)
		} else if id == known.self {
			c.say(pa, "a path is not joined to itself: another path is accepted")
		}
	}
}
