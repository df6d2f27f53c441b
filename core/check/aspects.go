package check

// looker measures several things in one look.
type looker interface {
	lookAt(*moment)
	mergeWith(later looker)
}

// aspect is one result of a looker that measures several things; the first aspect does the looking.
type aspect struct {
	of    looker
	looks bool
	say   func() Result
}

// aspects are the gauges of a looker.
func aspects(of looker, says ...func() Result) []gauge {
	var out []gauge
	for i, say := range says {
		out = append(out, &aspect{of, i == 0, say})
	}
	return out
}

func (a *aspect) look(f *moment) {
	if a.looks {
		a.of.lookAt(f)
	}
}

// One looker stands behind all of its aspects: it is merged once.
func (a *aspect) merge(later gauge) {
	if a.looks {
		a.of.mergeWith(later.(*aspect).of)
	}
}

func (a *aspect) result() Result { return a.say() }
