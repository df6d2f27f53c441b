package server

import (
	"bytes"
	"context"
	"encoding/base64"
	"fmt"
	"image/png"
	"net/http"
	"time"

	"github.com/gin-gonic/gin"

	"bead/core/rig"
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
	whole, err := s.cardSimulated(c.Request.Context(), compiled)
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
	// The address holds the revision, so a picture never changes; one without its simulation may.
	if whole {
		c.Header("Cache-Control", "private, max-age=86400")
	} else {
		c.Header("Cache-Control", "no-store")
	}
	c.Data(http.StatusOK, "image/svg+xml", data)
}

// cardSimulation is how long a card waits for what is simulated: cloth is else shown as it would follow its
// path.
const cardSimulation = 8 * time.Second

// cardSimulated simulates a scene for its card, whose frames are kept for whoever opens it. It does not wait
// where somebody else simulates, nor longer than cardSimulation: then it is false.
func (s *Server) cardSimulated(ctx context.Context, compiled *rig.Scene) (whole bool, err error) {
	if worked, of := compiled.Simulated(); worked == of {
		return true, nil
	}
	done, free := s.sims.tryTake(ctx)
	if !free {
		return false, nil
	}
	defer done()
	limited, cancel := context.WithTimeout(ctx, cardSimulation)
	defer cancel()
	err = compiled.Simulate(limited, nil)
	if err != nil && ctx.Err() == nil && limited.Err() != nil {
		return false, nil
	}
	return err == nil, err
}
