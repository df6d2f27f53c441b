package scene

// OverShape lies on a fixture.
type OverShape struct {
	Fixture   string  `json:"fixture" jsonschema:"description=Id of the fixture it lies on." ref:"fixture;thing"`
	Clearance float64 `json:"clearance,omitempty" jsonschema:"description=Metres kept from its surface." form:";length"`
	Closed    bool    `json:"closed,omitempty"`
	Points    []Vec3  `json:"points" jsonschema:"description=Places on or near the surface in the part's own axes." form:";points"`
}

func (s *OverShape) about() About { return About{Name: "On a surface"} }

func (s *OverShape) check(c *checker, at string) {
	if c.lone {
		c.say(at+".fixture", "a shape that needs a fixture of its scene is not accepted here")
	}
}
