package check

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"bead/core/scene"
)

// Terms are what somebody asks of a scene: some of the checks, and other tolerances than theirs.
type Terms struct {
	// Only are the checks that count, all where it is empty; Skip are those that do not.
	Only, Skip []string
	// tolerances are by the ids of checks, in the unit that they are written in.
	tolerances map[string]tolerance
}

type tolerance struct {
	value float64
	unit  string // m, %, °; "": that of the check
	text  string
}

// units are what a tolerance may be written in.
var units = []struct {
	name, of string
	times    float64
}{{"mm", "m", 1e-3}, {"cm", "m", 1e-2}, {"m", "m", 1}, {"%", "%", 1}, {"°", "°", 1}, {"deg", "°", 1}}

// Tolerate parses a tolerance of one check, CHECK=VALUE, with mm, cm, m, % or deg behind the value, or in the
// check's own unit.
func (t *Terms) Tolerate(text string) error {
	id, value, ok := strings.Cut(text, "=")
	if !ok {
		return fmt.Errorf("%q is not accepted: CHECK=VALUE is, such as seam=1mm", text)
	}
	if err := known(id); err != nil {
		return err
	}
	out := tolerance{text: value}
	number := value
	// Longer endings come first: mm before m.
	for _, u := range units {
		if rest, has := strings.CutSuffix(value, u.name); has {
			number, out.unit, out.value = strings.TrimSpace(rest), u.of, u.times
			break
		}
	}
	v, err := strconv.ParseFloat(number, 64)
	if err != nil || !(v >= 0 && v <= 1e9) {
		return fmt.Errorf("%s=%s is not accepted: a number from 0 up is, with mm, cm, m, %% or deg behind it", id, value)
	}
	if out.unit == "" {
		out.value = v
	} else {
		out.value *= v
	}
	if t.tolerances == nil {
		t.tolerances = map[string]tolerance{}
	}
	t.tolerances[id] = out
	return nil
}

// IDs are the words for all checks.
func IDs() []string {
	var out []string
	for _, w := range Vocabulary() {
		out = append(out, w.ID)
	}
	return out
}

func known(id string) error {
	if !slices.Contains(IDs(), id) {
		return fmt.Errorf("there is no check %q: %s are", id, strings.Join(IDs(), ", "))
	}
	return nil
}

// Check reports what is wrong with the terms.
func (t *Terms) Check() error {
	for _, id := range slices.Concat(t.Only, t.Skip) {
		if err := known(id); err != nil {
			return err
		}
	}
	return nil
}

// Judge returns the results that count, graded by the tolerances. One that is out for another reason than its
// figure (a loop that jolts) stays out. A tolerance in another unit than the check measures in is refused.
func (t *Terms) Judge(results []Result) ([]Result, error) {
	out := []Result{}
	for _, r := range results {
		if len(t.Only) > 0 && !slices.Contains(t.Only, r.ID) || slices.Contains(t.Skip, r.ID) {
			continue
		}
		if x, asked := t.tolerances[r.ID]; asked {
			// A speed of metres a frame may be given in metres.
			own, _, _ := strings.Cut(r.Unit, "/") // of a speed its length
			if x.unit != "" && x.unit != own {
				return nil, fmt.Errorf("%s=%s: %s of %s is measured in %s", r.ID, x.text, r.ID, r.Rig, r.Unit)
			}
			// Its figure decided; what is out for another reason stays so whatever is allowed.
			if r.State == grade(r.Value, r.Tolerance) {
				r.State = grade(r.Value, x.value)
			}
			r.Tolerance = x.value
		}
		out = append(out, r)
	}
	return out, nil
}

// Allowed is the tolerance with its unit, as Figure tells the value.
func (r Result) Allowed(u scene.Units) string {
	r.Value = r.Tolerance
	return r.Figure(u)
}
