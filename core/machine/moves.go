package machine

import (
	"fmt"
	"slices"

	"bead/core/scene"
)

// Resize returns the document with a path, and those joined to it, so many times as large about the middle of its bounds.
func (s *Machine) Resize(path string, times float64) (*scene.Document, error) {
	return s.larger(path, func(d *scene.Document, i int, middle scene.Vec3) error { return d.Resize(i, times, middle) })
}

// ResizeWithRigs is Resize with the rigs on the paths.
func (s *Machine) ResizeWithRigs(path string, times float64) (*scene.Document, error) {
	return s.larger(path, func(d *scene.Document, i int, middle scene.Vec3) error { return d.ResizeWithRigs(i, times, middle) })
}

// larger returns the document after a change to the path of an id about the middle of its bounds.
func (s *Machine) larger(path string, change func(d *scene.Document, i int, middle scene.Vec3) error) (*scene.Document, error) {
	i := slices.IndexFunc(s.Doc.Paths, func(p scene.Path) bool { return p.ID == path })
	if i < 0 {
		return nil, fmt.Errorf("%q is no path of this scene", path)
	}
	d, err := copied(s.Doc)
	if err != nil {
		return nil, err
	}
	b := s.Paths[i].Bounds()
	return checked(d, change(d, i, b.Min.Add(b.Max).Mul(0.5).Array()))
}

// OtherSide returns the document with the mirror image of a path and of what rides on it.
func (s *Machine) OtherSide(path string, apart float64) (*scene.Document, error) {
	d, err := copied(s.Doc)
	if err != nil {
		return nil, err
	}
	_, err = d.OtherSide(path, apart)
	return checked(d, err)
}

// checked gives a document back that has no faults.
func checked(d *scene.Document, err error) (*scene.Document, error) {
	if err != nil {
		return nil, err
	}
	if faults := d.Check(); len(faults) > 0 {
		return nil, faults
	}
	return d, nil
}
