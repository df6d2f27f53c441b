package server

import (
	"context"
	"errors"
	"net/http"
	"path/filepath"

	"github.com/gin-gonic/gin"

	"bead/core/look"
	"bead/formats"
	"bead/store"
)

// ReadImage is an image that the store has taken.
type ReadImage struct {
	Asset  string `json:"asset"`
	Name   string `json:"name"`
	Width  int    `json:"width"` // pixels
	Height int    `json:"height"`
}

// takeImage keeps an uploaded image of a material.
func (s *Server) takeImage(c *gin.Context) {
	m, id, name, ok := taken(s, c, func(_ context.Context, name string, data []byte) (*formats.Image, error) {
		return formats.ReadImage(name, data)
	})
	if ok {
		c.JSON(http.StatusCreated, ReadImage{id, name, m.Width, m.Height})
	}
}

// image sends an image of a material. Its address is that of its bytes, so it never changes.
func (s *Server) image(c *gin.Context) {
	m, err := s.library.Image(c.Param("id"))
	if errors.Is(err, store.ErrNoAsset) {
		fail(c, http.StatusNotFound, "image", "This image is not in the store: bring it in again.", nil)
		return
	}
	if err != nil {
		fail(c, http.StatusNotFound, "image", err.Error(), nil)
		return
	}
	c.Header("Cache-Control", "private, max-age=31536000, immutable")
	c.Data(http.StatusOK, m.Media, m.Data)
}

// ReadMaterial is a material of a file, named as the surfaces of the mesh are that are of it. The images
// that lie in the file are kept and named in it; Wants are those that lie beside it, by their fields.
type ReadMaterial struct {
	Material look.Material     `json:"material"`
	Wants    map[string]string `json:"wants,omitempty"`
}

// readMaterials reads the materials of a file and keeps the images in it.
func (s *Server) readMaterials(c *gin.Context) {
	data, err := readAll(c, maxImport)
	if err != nil {
		s.failWith(c, err)
		return
	}
	name, ctx := filepath.Base(c.Query("file")), c.Request.Context()
	found, err := inTurn(ctx, s.answers, func() ([]formats.FoundMaterial, error) { return formats.ReadMaterials(name, data) })
	if err != nil {
		fail(c, http.StatusUnprocessableEntity, "file", err.Error(), nil)
		return
	}
	out := []ReadMaterial{}
	for _, f := range found {
		m := ReadMaterial{f.Material, f.Wants}
		for field, bytes := range f.Files {
			if _, err := formats.ReadImage(f.Name+" "+field, bytes); err != nil {
				fail(c, http.StatusUnprocessableEntity, "file", "Material "+f.Name+": "+err.Error()+".", nil)
				return
			}
			id, err := s.cfg.Store.PutAsset(ctx, f.Name+" "+field, bytes)
			if err != nil {
				s.failWith(c, err)
				return
			}
			if m.Material.Images == nil {
				m.Material.Images = &look.Images{}
			}
			m.Material.Images.Put(field, id)
		}
		out = append(out, m)
	}
	c.JSON(http.StatusOK, out)
}
