package server

import (
	"bytes"
	"encoding/base64"
	"fmt"
	"image/png"
	"net/http"

	"github.com/gin-gonic/gin"

	"bead/formats/still"
)

// picture sends a scene's card: a still, in an SVG that can be shown at any size.
func (s *Server) picture(c *gin.Context) {
	sc, err := s.cfg.Store.Get(c.Request.Context(), c.Param("id"))
	if err != nil {
		s.failWith(c, err)
		return
	}
	compiled, err := s.compile(c.Request.Context(), sc.Doc)
	if err != nil {
		s.failWith(c, err)
		return
	}
	data, err := inTurn(c.Request.Context(), s.ahead, func() ([]byte, error) {
		drawn, err := still.Draw(c.Request.Context(), compiled, s.library.Mean)
		if err != nil {
			return nil, err
		}
		var out bytes.Buffer
		fmt.Fprintf(&out, `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 %d %d"><image width="100%%" height="100%%" href="data:image/png;base64,`, still.Width, still.Height)
		text := base64.NewEncoder(base64.StdEncoding, &out)
		if err := png.Encode(text, drawn); err != nil {
			return nil, err
		}
		err = text.Close()
		out.WriteString(`"/></svg>`)
		return out.Bytes(), err
	})
	if err != nil {
		s.failWith(c, err)
		return
	}
	// The address holds the revision, so a picture never changes.
	c.Header("Cache-Control", "private, max-age=86400")
	c.Data(http.StatusOK, "image/svg+xml", data)
}
