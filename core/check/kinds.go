package check

// Kind is one check, or several that come from one measurement. One more is a file of its own and
// a line in Kinds.
type Kind struct {
	Words []Words
	// gauges are those that apply to a rig, none where the check says nothing about it.
	gauges func(m *measure) []gauge
}

// Words are what a check is called and what it compares; Name and Means come from the table of names.
type Words struct {
	ID    string `json:"id"`
	Name  string `json:"name"`
	Means string `json:"means"`
	// Signed tells that too much and too little are both outside.
	Signed bool `json:"signed,omitempty"`
}

// Kinds are the checks of a rig in the order in which they are shown; that of the loop comes after
// them, since it compares whole frames.
var Kinds = []Kind{spacingKind, seamKind, overlapKind, bodyKind, flipsKind, outwardKind, jumpsKind, slipKind, tensionKind, teethKind, floorKind, payoutKind, clothKind, cycleKind, fallKind, cableKind, stepKind,
	{Words: []Words{{ID: "loop"}}}}

// Vocabulary is the words of all checks.
func Vocabulary() []Words {
	var out []Words
	for _, k := range Kinds {
		for _, w := range k.Words {
			w.Name, w.Means = names[w.ID].name, names[w.ID].means
			out = append(out, w)
		}
	}
	return out
}

// gauges are those that apply to the rig, in the order in which they are shown.
func (m *measure) gauges() []gauge {
	var out []gauge
	for _, k := range Kinds {
		if k.gauges != nil {
			out = append(out, k.gauges(m)...)
		}
	}
	return out
}
