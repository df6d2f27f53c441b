package scene

import (
	"encoding/json"
	"fmt"
	"regexp"
	"slices"
)

// Documents of version 1 held what a rig is as a word, kind, and all fields of all kinds side
// by side. Version 2 holds them in exactly one of train, rider and body, and calls what a body
// covers as the page does.

// version is what a document's tree says that it is, "" where it says nothing usable.
func version(tree any) string {
	doc, _ := tree.(map[string]any)
	n, _ := doc["bead"].(json.Number)
	return n.String()
}

// upgrade1 makes a tree of version 1 one of version 2. What does not belong where it stands is
// left for the matching to find.
func upgrade1(tree any) Faults {
	doc := tree.(map[string]any)
	// Before its rigs, so that what cannot be upgraded is matched as version 2 and named there.
	doc["bead"] = json.Number("2")
	rigs, _ := doc["rigs"].([]any)
	var faults Faults
	for i := range rigs {
		r, is := rigs[i].(map[string]any)
		if !is {
			continue
		}
		at := fmt.Sprintf("rigs[%d].kind", i)
		// A document that has both forms says two things of one rig.
		for _, later := range []string{"train", "rider", "body"} {
			if _, given := r[later]; given {
				faults = append(faults, Fault{fmt.Sprintf("rigs[%d].%s", i, later), "is no field of version 1: kind says what a rig is"})
			}
		}
		word, given := r["kind"]
		switch word {
		case "train", "rider", "bend":
			if !upgradeRig(r) {
				faults = append(faults, Fault{fmt.Sprintf("rigs[%d].spacing", i), fmt.Sprintf("a %s is one thing: leave the spacing out, but for its offset", word)})
			}
		default:
			if !given {
				faults = append(faults, Fault{at, "is missing"})
			} else {
				faults = append(faults, Fault{at, asSaid(word) + " is not a kind of rig: train, rider and bend are"})
			}
		}
		if len(faults) >= maxFaults {
			break
		}
	}
	return faults
}

// fits are the words of version 1 for how much of its path a body covers.
var fits = map[any]string{"keep length": FitOwn, "fill path": FitWhole}

// asSaid is a value as a fault shows it.
func asSaid(v any) string {
	if s, is := v.(string); is {
		return fmt.Sprintf("%q", s)
	}
	return kindOf(v)
}

// upgradeRig makes a rig one of version 2; false where one thing has a spacing.
func upgradeRig(r map[string]any) bool {
	kind, _ := r["kind"].(string)
	delete(r, "kind")
	own := map[string]any{}
	if body, is := r["bend"].(map[string]any); is && kind == "bend" {
		own = body
		delete(r, "bend")
		if word, old := fits[own["fit"]]; old {
			own["fit"] = word
		}
	}
	for _, field := range []string{"seat", "pastEnd", "lead", "rolling", "arrive", "leave", "others", "bend", "blends"} {
		if v, given := r[field]; given {
			own[field] = v
			delete(r, field)
		}
	}
	given, is := r["spacing"]
	if !is {
		given = map[string]any{}
	}
	delete(r, "spacing")
	spacing, _ := given.(map[string]any)
	// In version 2 every rig has it, not only those with a spacing.
	if offset, moved := spacing["offset"]; moved {
		r["offset"] = offset
		delete(spacing, "offset")
	}
	switch kind {
	case "train":
		own["spacing"] = given
		r["train"] = own
		return true
	case "rider":
		drop(own, "seat", SeatPivot)
		r["rider"] = own
	case "bend":
		drop(own, "seat", SeatBent)
		r["body"] = own
	}
	return single(given)
}

// single reports whether a spacing says no more than that there is one thing.
func single(given any) bool {
	spacing, is := given.(map[string]any)
	drop(spacing, "mode", "set count")
	drop(spacing, "count", json.Number("1"))
	// One thing has no distance to the next: whatever stands there was never used.
	for _, unused := range []string{"pitch", "gap", "rest", "seed", "even"} {
		delete(spacing, unused)
	}
	return is && len(spacing) == 0
}

func drop(from map[string]any, field string, value any) {
	if from[field] == value {
		delete(from, field)
	}
}

// moved are where fields of version 2 stood in version 1.
var moved = []struct {
	now *regexp.Regexp
	was string
}{
	{regexp.MustCompile(`^(rigs\[\d+\])\.body\.(fit|anchor|tail|head|keepVolume|taper|twist|rounds)\b`), "$1.bend.$2"},
	{regexp.MustCompile(`^(rigs\[\d+\])\.offset\b`), "$1.spacing.offset"},
	{regexp.MustCompile(`^(rigs\[\d+\])\.(?:train|rider|body)\.`), "$1."},
}

// Addressed gives faults that are found later, as when it is compiled, the addresses that they
// have in the document that was read.
func (d *Document) Addressed(faults Faults) Faults {
	if d.read1 {
		return inVersion1(faults)
	}
	return faults
}

// inVersion1 gives faults the addresses that they have in a document of version 1.
func inVersion1(faults Faults) Faults {
	out := slices.Clone(faults)
	for i := range out {
		for _, m := range moved {
			if m.now.MatchString(out[i].Address) {
				out[i].Address = m.now.ReplaceAllString(out[i].Address, m.was)
				break
			}
		}
	}
	return out
}
