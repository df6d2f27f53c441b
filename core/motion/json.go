package motion

import "encoding/json"

// In documents a value is a plain number, {"keys": [...], "before", "after"} or
// {"speed": metres a second, "start": metres}.

// Keyed is the document's form of a value with keys.
type Keyed struct {
	Keys   []Key `json:"keys" jsonschema:"minItems=1"`
	Before Ends  `json:"before,omitempty" jsonschema:"enum=hold,enum=carry on,enum=repeat,enum=build,enum=mirror"`
	After  Ends  `json:"after,omitempty" jsonschema:"enum=hold,enum=carry on,enum=repeat,enum=build,enum=mirror"`
	// Within are the frames between which the keys and their ends act.
	Within *[2]float64 `json:"within,omitempty" jsonschema:"description=First and last frame between which the value moves; left out: always."`
}

// Running is the document's form of a value with a constant speed.
type Running struct {
	Speed float64 `json:"speed"`
	Start float64 `json:"start,omitempty"`
}

// MarshalJSON writes the shortest of the three forms.
func (v Value) MarshalJSON() ([]byte, error) {
	switch {
	case v.Speed != nil:
		return json.Marshal(Running{v.Speed.PerSecond, v.Speed.Start})
	case len(v.Keys) > 0:
		return json.Marshal(Keyed{v.Keys, v.Before, v.After, v.Within})
	}
	return json.Marshal(v.Const)
}

// UnmarshalJSON reads any of the three forms. Unknown fields are the caller's to
// refuse: core/scene does so for the whole document, with addresses.
func (v *Value) UnmarshalJSON(data []byte) error {
	*v = Value{}
	if len(data) == 0 || data[0] != '{' {
		return json.Unmarshal(data, &v.Const)
	}
	var both struct {
		Keyed
		Speed *float64 `json:"speed"`
		Start float64  `json:"start"`
	}
	if err := json.Unmarshal(data, &both); err != nil {
		return err
	}
	v.Keys, v.Before, v.After, v.Within = both.Keys, both.Before, both.After, both.Within
	if both.Speed != nil {
		v.Speed = &Speed{*both.Speed, both.Start}
	}
	return nil
}
