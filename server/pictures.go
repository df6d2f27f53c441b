package server

import (
	"context"
	"encoding/binary"
	"fmt"
	"math"
	"net/http"

	"github.com/gin-gonic/gin"

	"bead/core/rig"
	"bead/core/scene"
)

// maxPictures bounds the pictures of one request: a film asks again for more.
const maxPictures = 2000

// pictures sends pictures of a document at frames that may lie between two, as a film's blur asks for:
// each as a message of the live channel (docs/protocol.md) behind its length, one after another as they
// are made.
func (s *Server) pictures(c *gin.Context) {
	var req AskPictures
	if !body(c, &req) {
		return
	}
	if n := len(req.Frames); n < 1 || n > maxPictures {
		fail(c, http.StatusBadRequest, "frames", fmt.Sprintf("%d frames are not accepted: from 1 to %d at a time are.", n, maxPictures), nil)
		return
	}
	for _, f := range req.Frames {
		if !(math.Abs(f) <= scene.FarthestFrame) {
			fail(c, http.StatusBadRequest, "frames", fmt.Sprintf("Frame %g is not accepted: frames within ±%d are.", f, scene.FarthestFrame), nil)
			return
		}
	}
	compiled, err := s.read(c.Request.Context(), req.Doc)
	if err != nil {
		s.failWith(c, err)
		return
	}
	ctx := c.Request.Context()
	if err := s.settled(ctx, compiled); err != nil {
		s.failWith(c, err)
		return
	}
	c.Header("Content-Type", "application/octet-stream")
	c.Status(http.StatusOK)
	var m message
	var p rig.Picture
	for _, f := range req.Frames {
		// Each in its turn, so that a film leaves others their answers.
		_, err := inTurn(ctx, s.ahead, func() (struct{}, error) {
			return struct{}{}, compiled.AtContext(ctx, &p, f)
		})
		if err != nil {
			return
		}
		m.start(kindFrame, 0, int(math.Floor(f)))
		m.picture(compiled, &p)
		head := binary.LittleEndian.AppendUint32(nil, uint32(len(m.b)))
		if _, err := c.Writer.Write(append(head, 0, 0, 0, 0)); err != nil {
			return
		}
		if _, err := c.Writer.Write(m.b); err != nil {
			return
		}
		c.Writer.Flush()
	}
}

// settled simulates what has to be before there are pictures.
func (s *Server) settled(ctx context.Context, compiled *rig.Scene) error {
	_, err := inTurn(ctx, s.sims, func() (struct{}, error) { return struct{}{}, compiled.Simulate(ctx, nil) })
	return err
}
