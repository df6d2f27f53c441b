package check

import (
	"fmt"
	"strings"

	"bead/core/scene"
)

// Saying is something that is said, as a code of the table of sentences and what is filled in: numbers, names,
// lengths in metres, other sayings.
type Saying struct {
	Code string
	With []any
}

// Numbers that are told in the document's units: lengths of things and of ways along a path, in metres, and metres a
// second.
type (
	length float64
	far    float64
	speed  float64
)

func say(code string, with ...any) Saying { return Saying{code, with} }

// in is the saying in the words of the table and the units of a document. A code that the table does not know
// stands for itself, as names and the words of states do.
func (s Saying) in(u scene.Units) string {
	template, known := sentences[s.Code]
	if !known {
		return s.Code
	}
	with := make([]any, len(s.With))
	for i, v := range s.With {
		switch v := v.(type) {
		case length:
			with[i] = u.Length(float64(v))
		case far:
			with[i] = u.Distance(float64(v))
		case speed:
			with[i] = u.Speed(float64(v))
		case Saying:
			with[i] = v.in(u)
		default:
			with[i] = v
		}
	}
	return fmt.Sprintf(template, with...)
}

// offer is a remedy that is still to be told.
func offer(says Saying, edits []Edit) Remedy { return Remedy{Says: says, Edits: edits} }

// told are sayings in words, one after the other.
func told(u scene.Units, says ...Saying) string {
	var text strings.Builder
	for _, s := range says {
		text.WriteString(s.in(u))
	}
	return text.String()
}

// tell puts what a result says into words.
func (r *Result) tell(u scene.Units) {
	// The word of a state is its own code: English needs no entry for it.
	r.Word = say(r.Word).in(u)
	r.Text = told(u, r.Says...)
	for i := range r.Remedies {
		r.Remedies[i].Label = r.Remedies[i].Says.in(u)
	}
}
